package remitto.server.platform;

import java.lang.annotation.ElementType;
import java.lang.annotation.Retention;
import java.lang.annotation.RetentionPolicy;
import java.lang.annotation.Target;

/**
 * Marks a component of a view that holds values of people's records, or texts that quote them. It is masked over HTTP for a user
 * without the right to see personal values; names of fields and yes-or-no values stay.
 */
@Retention(RetentionPolicy.RUNTIME)
@Target({ElementType.RECORD_COMPONENT, ElementType.FIELD, ElementType.METHOD})
public @interface Personal {
    Part value() default Part.WHOLE;

    /** What of a text is masked. */
    enum Part {
        /** All of it. */
        WHOLE,
        /** What stands in quotes, e-mail addresses, and runs of seven digits or more. */
        IN_TEXT,
        /** E-mail addresses: other keys say nothing by themselves, and work goes on by them. */
        KEY
    }
}
