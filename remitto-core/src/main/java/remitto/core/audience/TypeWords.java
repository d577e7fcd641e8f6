package remitto.core.audience;

import java.util.Collection;
import java.util.stream.Collectors;
import remitto.core.dataset.ColumnType;

/** Types of values as people say them. */
final class TypeWords {
    private TypeWords() {}

    static String of(ColumnType type) {
        return switch (type) {
            case TEXT -> "a text";
            case INTEGER, DECIMAL -> "a number";
            case BOOLEAN -> "yes or no";
            case DATE -> "a day";
            case TIMESTAMP -> "a moment";
        };
    }

    static String of(Collection<ColumnType> types) {
        return types.stream().map(TypeWords::of).sorted().distinct().collect(Collectors.joining(" or "));
    }
}
