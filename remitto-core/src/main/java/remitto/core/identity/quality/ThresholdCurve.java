package remitto.core.identity.quality;

import java.util.ArrayList;
import java.util.List;
import remitto.core.identity.Linker;
import remitto.core.identity.evidence.Scorer;
import remitto.core.identity.evidence.Weights;
import remitto.core.identity.group.Grouper;
import remitto.core.identity.group.MatchOverrides;
import remitto.core.identity.record.RecordTable;
import remitto.core.identity.rule.MatchRules;
import remitto.core.identity.rule.ResolutionRules;

/** How good the persons would be if records were joined from another weight on. */
public final class ThresholdCurve {
    private ThresholdCurve() {}

    /**
     * Precision and recall of matching from a threshold on.
     *
     * @param join weight, in bits, from which records are joined
     */
    public record ThresholdPoint(double join, double precision, double recall, double f1, int persons) {}

    /**
     * @param table records without the common values
     * @param truth by record, as in {@link Quality#of}
     * @param from lowest and {@code to} highest weight, one bit after the other
     */
    public static List<ThresholdPoint> of(
            RecordTable table, ResolutionRules set, Weights weights, int[] truth, int from, int to) {
        MatchRules low = set.rules().thresholds(new MatchRules.Thresholds(from, from));
        Linker.Found found = new Linker(table, low, set.nicknames()).find(weights);
        List<ThresholdPoint> points = new ArrayList<>();
        for (int join = from; join <= to; join++) {
            MatchRules rules = low.thresholds(new MatchRules.Thresholds(join, from));
            Scorer scorer = new Scorer(table, found.weights(), set.nicknames());
            var groups = new Grouper(table, rules, scorer, new MatchOverrides()).group(found.links());
            Quality quality = Quality.of(groups.group(), truth);
            points.add(new ThresholdPoint(join, quality.precision(), quality.recall(), quality.f1(), groups.persons()));
        }
        return points;
    }
}
