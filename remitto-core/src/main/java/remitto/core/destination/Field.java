package remitto.core.destination;

import java.util.List;
import java.util.OptionalInt;

/**
 * One slot of a destination object, as the tool describes it.
 *
 * @param writable false when this login may not write it, though others may
 * @param maxLength longest text in Unicode code points, where the tool names one
 * @param choices values of a choice list; empty for every other kind
 */
public record Field(
        String name,
        String title,
        FieldKind kind,
        boolean required,
        boolean unique,
        boolean readOnly,
        boolean writable,
        boolean custom,
        OptionalInt maxLength,
        List<String> choices) {
    public Field {
        choices = List.copyOf(choices);
    }

    public boolean mayBeWritten() {
        return writable && !readOnly;
    }
}
