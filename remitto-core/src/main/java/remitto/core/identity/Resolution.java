package remitto.core.identity;

import java.util.Set;
import remitto.core.identity.evidence.Scorer;
import remitto.core.identity.group.Grouper;
import remitto.core.identity.group.Groups;
import remitto.core.identity.group.Pins;
import remitto.core.identity.tidy.Nicknames;

/**
 * Records joined into persons, with all that it was judged by.
 *
 * @param table the records, without the common values
 */
public record Resolution(RecordTable table, CommonValues common, Linker.Found found, Groups groups) {

    /** @param kept common values that a person decided to use after all */
    public static Resolution of(
            RecordTable records, MatchRules rules, Nicknames nicknames, Pins pins, Set<CommonValues.Common> kept) {
        CommonValues common = CommonValues.find(records, rules.limits().share(), kept);
        RecordTable table = records.without(common);
        Linker.Found found = new Linker(table, rules, nicknames).find();
        Scorer scorer = new Scorer(table, found.weights(), nicknames);
        Groups groups = new Grouper(table, rules, scorer, pins).group(found.links());
        return new Resolution(table, common, found, groups);
    }
}
