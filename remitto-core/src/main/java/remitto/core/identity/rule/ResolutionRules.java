package remitto.core.identity.rule;

import java.util.Set;
import remitto.core.identity.normalise.Nicknames;
import remitto.core.identity.record.Attribute;
import remitto.core.identity.record.CommonValues;

/**
 * All that decides who is one person beside the records.
 *
 * @param kept common values that a person decided to use after all
 */
public record ResolutionRules(MatchRules rules, Nicknames nicknames, Set<CommonValues.Common> kept) {
    public ResolutionRules {
        kept = Set.copyOf(kept);
    }

    public ResolutionRules thresholds(MatchRules.Thresholds other) {
        return new ResolutionRules(rules.thresholds(other), nicknames, kept);
    }

    /** What ships. */
    public static ResolutionRules usual(java.util.List<Attribute> attributes) {
        return new ResolutionRules(MatchRules.usual(attributes), Nicknames.shipped(), Set.of());
    }
}
