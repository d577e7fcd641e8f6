package remitto.core.identity;

import java.util.BitSet;
import remitto.core.identity.evidence.Scorer;
import remitto.core.identity.evidence.Weights;
import remitto.core.identity.group.Grouper;
import remitto.core.identity.group.Groups;
import remitto.core.identity.group.Pins;
import remitto.core.identity.record.CommonValues;
import remitto.core.identity.record.RecordTable;
import remitto.core.identity.rule.JoiningRules;

/**
 * Records joined into persons, with all that it was judged by.
 *
 * @param table the records, without the common values
 * @param touched records whose person was judged anew; of the others all is as it was
 */
public record Resolution(RecordTable table, CommonValues common, Linker.Found found, Groups groups, BitSet touched) {

    /** With weights estimated from the records. */
    public static Resolution of(RecordTable records, JoiningRules set, Pins pins) {
        CommonValues common = common(records, set);
        RecordTable table = records.without(common);
        return whole(table, common, set, pins, linker(table, set).find());
    }

    /** With weights that are given. */
    public static Resolution of(RecordTable records, JoiningRules set, Pins pins, Weights weights) {
        CommonValues common = common(records, set);
        RecordTable table = records.without(common);
        return whole(table, common, set, pins, linker(table, set).find(weights));
    }

    /** The same persons as {@link #of(RecordTable, JoiningRules, Pins, Weights)}, judging only what changed since. */
    public static Resolution again(RecordTable records, JoiningRules set, Pins pins, Weights weights, Earlier earlier) {
        CommonValues common = common(records, set);
        RecordTable table = records.without(common);
        Linker.Found found = linker(table, set).findAgain(weights, earlier);
        BitSet touched = earlier.touched(found.fresh());
        Grouper grouper = new Grouper(table, set.rules(), new Scorer(table, found.weights(), set.nicknames()), pins);
        Groups groups = grouper.groupAgain(found.links(), touched, earlier.group());
        return new Resolution(table, common, found, groups, touched);
    }

    private static Resolution whole(
            RecordTable table, CommonValues common, JoiningRules set, Pins pins, Linker.Found found) {
        Scorer scorer = new Scorer(table, found.weights(), set.nicknames());
        Groups groups = new Grouper(table, set.rules(), scorer, pins).group(found.links());
        return new Resolution(table, common, found, groups, found.fresh());
    }

    private static Linker linker(RecordTable table, JoiningRules set) {
        return new Linker(table, set.rules(), set.nicknames());
    }

    private static CommonValues common(RecordTable records, JoiningRules set) {
        return CommonValues.find(records, set.rules().limits().share(), set.kept());
    }
}
