package remitto.core.file;

import java.util.OptionalInt;
import remitto.core.destination.Field;
import remitto.core.destination.FieldKind;

/**
 * A column of a file, named as its receiver wants it.
 *
 * @param required a row without it is not written
 * @param maxLength longest text in Unicode code points, where the receiver names one
 */
public record FileColumn(String name, FieldKind kind, boolean required, OptionalInt maxLength) {
    public static FileColumn of(String name, FieldKind kind) {
        return new FileColumn(name, kind, false, OptionalInt.empty());
    }

    Field field(boolean key) {
        return new Field(name, name, kind, required || key, key, false, true, false, maxLength, java.util.List.of());
    }
}
