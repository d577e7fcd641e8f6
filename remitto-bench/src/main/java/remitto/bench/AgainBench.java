package remitto.bench;

import java.util.Arrays;
import java.util.Locale;
import java.util.Set;
import remitto.core.identity.Earlier;
import remitto.core.identity.Resolution;
import remitto.core.identity.evidence.Weights;
import remitto.core.identity.group.MatchOverrides;
import remitto.core.identity.record.RecordTable;
import remitto.core.identity.rule.ResolutionRules;

/** Some records more, judged alone and with everything, from normalised records on. */
final class AgainBench {
    private final Weights weights;

    AgainBench(Weights weights) {
        this.weights = weights;
    }

    /** A line with the times of both, and whether they come to the same persons. */
    String run(RecordTable before, RecordTable now) {
        ResolutionRules set = ResolutionRules.usual(now.attributes());
        Resolution then = Resolution.of(before, set, new MatchOverrides(), weights);
        Earlier earlier = Earlier.of(now, then, Set.of());
        long start = System.nanoTime();
        Resolution again = Resolution.again(now, set, new MatchOverrides(), weights, earlier);
        double part = (System.nanoTime() - start) / 1e9;
        start = System.nanoTime();
        Resolution whole = Resolution.of(now, set, new MatchOverrides(), weights);
        double all = (System.nanoTime() - start) / 1e9;
        return String.format(
                Locale.ROOT,
                "again records=%d of=%d judged=%d pairs=%d of_pairs=%d seconds=%.1f whole_seconds=%.1f ratio=%.2f same=%b",
                now.size() - before.size(),
                now.size(),
                again.touched().cardinality(),
                again.found().compared(),
                whole.found().compared(),
                part,
                all,
                part / all,
                Arrays.equals(again.groups().group(), whole.groups().group()));
    }
}
