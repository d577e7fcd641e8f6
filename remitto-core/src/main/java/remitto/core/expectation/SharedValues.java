package remitto.core.expectation;

import java.util.Map;
import java.util.Set;

/**
 * Values that more than one row holds, of columns that are expected to be unique.
 *
 * @param byColumn some of them, as the source spells them; all of them while there are not too many
 * @param numbers how many there are, by column
 */
public record SharedValues(Map<String, Set<String>> byColumn, Map<String, Long> numbers) {
    public static final SharedValues NONE = new SharedValues(Map.of(), Map.of());

    public SharedValues {
        byColumn = Map.copyOf(byColumn);
        numbers = Map.copyOf(numbers);
    }

    Set<String> of(String column) {
        return byColumn.getOrDefault(column, Set.of());
    }

    /** Whether there are more than can be told apart row by row. */
    boolean isCut(String column) {
        return number(column) > of(column).size();
    }

    long number(String column) {
        return numbers.getOrDefault(column, 0L);
    }
}
