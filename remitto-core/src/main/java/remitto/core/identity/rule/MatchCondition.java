package remitto.core.identity.rule;

import remitto.core.identity.compare.Comparison;
import remitto.core.identity.record.RecordTable;

/**
 * What two records must have in common, or must not. A value that is missing on either side fulfils neither.
 *
 * @param agrees false when the comparison must not hold
 */
public record MatchCondition(String attribute, Comparison comparison, boolean agrees) {
    boolean holds(RecordTable table, int one, int other) {
        int position = table.position(attribute);
        int first = table.code(position, one);
        int second = table.code(position, other);
        if (first == 0 || second == 0) {
            return false;
        }
        return comparison.holds(table.value(position, one), table.value(position, other)) == agrees;
    }

    String words() {
        return attribute.replace('_', ' ') + (agrees ? " is " : " is not ") + comparison.words();
    }
}
