package remitto.core.destination;

import java.util.List;
import java.util.Objects;
import java.util.OptionalInt;

/**
 * One slot of a destination object, as the tool describes it.
 *
 * @param writable false when this login may not write it, though others may
 * @param maxLength longest text in Unicode code points, where the tool names one
 * @param choices values of a choice list; empty for every other kind
 * @param theirs values that a person gives it there and nobody may take away, such as having unsubscribed
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
        List<String> choices,
        List<String> theirs) {
    public Field {
        choices = List.copyOf(choices);
        // Descriptions that were kept before there was such a thing say nothing of it.
        theirs = List.copyOf(Objects.requireNonNullElse(theirs, List.of()));
    }

    /** A field without values that are a person's own. */
    public Field(
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
        this(name, title, kind, required, unique, readOnly, writable, custom, maxLength, choices, List.of());
    }

    public boolean mayBeWritten() {
        return writable && !readOnly;
    }
}
