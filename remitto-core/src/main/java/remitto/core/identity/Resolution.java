package remitto.core.identity;

import java.util.BitSet;
import java.util.Optional;
import remitto.core.identity.evidence.Scorer;
import remitto.core.identity.evidence.Weights;
import remitto.core.identity.group.Grouper;
import remitto.core.identity.group.Groups;
import remitto.core.identity.group.MatchOverrides;
import remitto.core.identity.record.CommonValues;
import remitto.core.identity.record.RecordTable;
import remitto.core.identity.rule.Expected;
import remitto.core.identity.rule.MatchRules;
import remitto.core.identity.rule.MatchRules.Thresholds;
import remitto.core.identity.rule.ResolutionRules;

/**
 * Records joined into persons, with all that it was judged by.
 *
 * @param table the records, without the common values
 * @param touched records whose person was judged again; of the others all is as it was
 * @param thresholds that pairs were joined and asked about by
 */
public record Resolution(
        RecordTable table,
        CommonValues common,
        Linker.Found found,
        Groups groups,
        BitSet touched,
        Thresholds thresholds) {

    /** With weights estimated from the records, and thresholds that follow from an aim, where there is one. */
    public static Resolution of(RecordTable records, ResolutionRules set, MatchOverrides overrides) {
        CommonValues common = common(records, set);
        RecordTable table = records.without(common);
        return whole(table, common, set, overrides, estimated(table, set));
    }

    private static Linker.Found estimated(RecordTable table, ResolutionRules set) {
        Optional<MatchRules.TargetPrecision> aim = set.rules().thresholds().aim();
        if (aim.isEmpty()) {
            return linker(table, set).find();
        }
        Thresholds low = new Thresholds(Thresholds.LEAST, Thresholds.LEAST);
        Linker.Found found = linker(table, set.thresholds(low)).find();
        return found.cut(Expected.cuts(found.links(), aim.get()));
    }

    /** With weights that are given. */
    public static Resolution of(RecordTable records, ResolutionRules set, MatchOverrides overrides, Weights weights) {
        CommonValues common = common(records, set);
        RecordTable table = records.without(common);
        ResolutionRules followed = set.thresholds(set.rules().thresholds().by(weights));
        return whole(table, common, followed, overrides, linker(table, followed).find(weights));
    }

    /** The same persons as {@link #of(RecordTable, ResolutionRules, MatchOverrides, Weights)}, judging only what changed since. */
    public static Resolution again(
            RecordTable records, ResolutionRules set, MatchOverrides overrides, Weights weights, Earlier earlier) {
        CommonValues common = common(records, set);
        RecordTable table = records.without(common);
        ResolutionRules followed = set.thresholds(set.rules().thresholds().by(weights));
        Linker.Found found = linker(table, followed).findAgain(weights, earlier);
        BitSet touched = earlier.touched(found.fresh());
        Grouper grouper =
                new Grouper(table, followed.rules(), new Scorer(table, found.weights(), set.nicknames()), overrides);
        Groups groups = grouper.groupAgain(found.links(), touched, earlier.group());
        return new Resolution(
                table, common, found, groups, touched, followed.rules().thresholds());
    }

    private static Resolution whole(
            RecordTable table, CommonValues common, ResolutionRules set, MatchOverrides overrides, Linker.Found found) {
        Scorer scorer = new Scorer(table, found.weights(), set.nicknames());
        Thresholds thresholds = set.rules().thresholds().by(found.weights());
        MatchRules rules = set.rules().thresholds(thresholds);
        Groups groups = new Grouper(table, rules, scorer, overrides).group(found.links());
        return new Resolution(table, common, found, groups, found.fresh(), thresholds);
    }

    private static Linker linker(RecordTable table, ResolutionRules set) {
        return new Linker(table, set.rules(), set.nicknames());
    }

    private static CommonValues common(RecordTable records, ResolutionRules set) {
        return CommonValues.find(records, set.rules().limits().share(), set.kept());
    }
}
