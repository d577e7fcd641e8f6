package remitto.bench;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import remitto.core.identity.Earlier;
import remitto.core.identity.Links;
import remitto.core.identity.RecordRef;
import remitto.core.identity.RecordTable;
import remitto.core.identity.Resolution;
import remitto.core.identity.RuleSet;
import remitto.core.identity.evidence.Weights;
import remitto.core.identity.group.Pins;

/** Some records more, judged alone and with everything, from tidied records on. */
final class AgainBench {
    private final Weights weights;

    AgainBench(Weights weights) {
        this.weights = weights;
    }

    /** A line with the times of both, and whether they come to the same persons. */
    String run(RecordTable before, RecordTable now) {
        RuleSet set = RuleSet.usual(now.attributes());
        Resolution then = Resolution.of(before, set, new Pins(), weights);
        Earlier earlier = earlier(now, then);
        long start = System.nanoTime();
        Resolution again = Resolution.again(now, set, new Pins(), weights, earlier);
        double part = (System.nanoTime() - start) / 1e9;
        start = System.nanoTime();
        Resolution whole = Resolution.of(now, set, new Pins(), weights);
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
                java.util.Arrays.equals(again.groups().group(), whole.groups().group()));
    }

    private static Earlier earlier(RecordTable now, Resolution then) {
        RecordTable table = then.table();
        Map<RecordRef, Earlier.Then> records = new HashMap<>();
        for (int record = 0; record < table.size(); record++) {
            records.put(
                    table.ref(record),
                    new Earlier.Then(
                            then.found().signatures()[record], then.groups().group()[record] + 1L));
        }
        Links links = then.found().links();
        List<Earlier.ThenLink> kept = new ArrayList<>();
        for (int link = 0; link < links.size(); link++) {
            kept.add(new Earlier.ThenLink(
                    table.ref(links.one(link)), table.ref(links.other(link)), links.weight(link), links.rule(link)));
        }
        return Earlier.of(now, records, kept, Set.of());
    }
}
