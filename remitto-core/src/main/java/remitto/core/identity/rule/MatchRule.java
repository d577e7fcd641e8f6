package remitto.core.identity.rule;

import java.util.List;
import java.util.stream.Collectors;
import remitto.core.identity.record.RecordTable;

/** Conditions that together decide about two records, whatever else is known of them. */
public record MatchRule(List<MatchCondition> conditions) {
    public MatchRule {
        if (conditions.isEmpty()) {
            throw new IllegalArgumentException("a rule needs a condition");
        }
        conditions = List.copyOf(conditions);
    }

    public boolean holds(RecordTable table, int one, int other) {
        for (MatchCondition condition : conditions) {
            if (!condition.holds(table, one, other)) {
                return false;
            }
        }
        return true;
    }

    /** In words, such as "national id is the same and birth date is not the same". */
    public String words() {
        return conditions.stream().map(MatchCondition::words).collect(Collectors.joining(" and "));
    }
}
