package remitto.core.identity.rule;

import java.util.Set;
import remitto.core.identity.record.Attribute;
import remitto.core.identity.record.CommonValues;
import remitto.core.identity.tidy.Nicknames;

/**
 * All that decides who is one person beside the records.
 *
 * @param kept common values that a person decided to use after all
 */
public record JoiningRules(MatchRules rules, Nicknames nicknames, Set<CommonValues.Common> kept) {
    public JoiningRules {
        kept = Set.copyOf(kept);
    }

    public JoiningRules thresholds(MatchRules.Thresholds other) {
        return new JoiningRules(rules.thresholds(other), nicknames, kept);
    }

    /** What ships. */
    public static JoiningRules usual(java.util.List<Attribute> attributes) {
        return new JoiningRules(MatchRules.usual(attributes), Nicknames.shipped(), Set.of());
    }
}
