package remitto.server.delivery;

import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Function;
import org.springframework.stereotype.Component;
import remitto.connect.destination.Destination;
import remitto.connect.destination.Destination.RemoteRecord;
import remitto.core.delivery.Landing;
import remitto.core.manifest.Verdict;
import remitto.core.value.Value;
import remitto.server.manifest.Line;
import remitto.server.manifest.Lines;
import remitto.server.route.BoundRoute;

/** Finds out by reading what became of writes that got no answer, and whether the ground of those to come is as it was. */
@Component
class ReadBack {
    private final Lines lines;

    ReadBack(Lines lines) {
        this.lines = lines;
    }

    /** What became of lines whose outcome nobody knows; those that did not take effect go again. */
    Settlement settle(BoundRoute route, long runId, List<Line> sent) {
        Settlement settlement = new Settlement();
        List<Line> unknown = whole(route, runId, sent);
        Map<Integer, RemoteRecord> found = find(route, unknown);
        for (Line line : unknown) {
            settle(line, Optional.ofNullable(found.get(line.number())), settlement);
        }
        return settlement;
    }

    private static void settle(Line line, Optional<RemoteRecord> there, Settlement settlement) {
        Landing landing = Landing.ofWrite(line.verdict(), line.fields(), there.map(RemoteRecord::fields));
        if (landing instanceof Landing.Took took) {
            settlement.acknowledged(line, there.map(RemoteRecord::id).orElse(line.remoteId()), took.words());
        } else if (landing instanceof Landing.MovedOn moved) {
            settlement.movedOn(line, moved.why());
        } else {
            settlement.again.add(line);
        }
    }

    /**
     * Checks lines whose old values were read some time ago, and sets aside those whose ground moved.
     *
     * @return the lines that may still be sent, as {@code again}, and those set aside
     */
    Settlement checkGround(BoundRoute route, long runId, List<Line> stale) {
        Settlement settlement = new Settlement();
        List<Line> planned = whole(route, runId, stale);
        Map<Integer, RemoteRecord> found = find(route, planned);
        for (Line line : planned) {
            Optional<RemoteRecord> there = Optional.ofNullable(found.get(line.number()));
            Landing.ofGround(line.verdict(), line.fields(), there.map(RemoteRecord::fields))
                    .ifPresentOrElse(moved -> settlement.movedOn(line, moved.why()), () -> settlement.again.add(line));
        }
        return settlement;
    }

    /** Lines that are to be sent do not say what was there before. */
    private List<Line> whole(BoundRoute route, long runId, List<Line> some) {
        return lines.byNumber(
                runId,
                some.stream().map(Line::number).toList(),
                route.described().description());
    }

    private static Map<Integer, RemoteRecord> find(BoundRoute route, List<Line> wanted) {
        Map<Integer, RemoteRecord> found = new HashMap<>();
        List<Line> added =
                wanted.stream().filter(line -> line.verdict() == Verdict.ADDED).toList();
        List<Line> known =
                wanted.stream().filter(line -> line.verdict() != Verdict.ADDED).toList();
        String keyField = route.route().spec().match().get(0);
        byValue(route, keyField, added, line -> line.written().getOrDefault(keyField, Value.EMPTY), found);
        byValue(route, Destination.ID, known, line -> new Value.Text(line.remoteId()), found);
        return found;
    }

    private static void byValue(
            BoundRoute route,
            String by,
            List<Line> wanted,
            Function<Line, Value> value,
            Map<Integer, RemoteRecord> found) {
        if (wanted.isEmpty()) {
            return;
        }
        Map<Value, RemoteRecord> records = new HashMap<>();
        route.connection()
                .finding()
                .find(
                        route.described().description(),
                        by,
                        wanted.stream().map(value).toList())
                .forEach(one -> records.put(
                        by.equals(Destination.ID)
                                ? new Value.Text(one.id())
                                : one.fields().getOrDefault(by, Value.EMPTY),
                        one));
        wanted.forEach(line -> {
            RemoteRecord there = records.get(value.apply(line));
            if (there != null) {
                found.put(line.number(), there);
            }
        });
    }
}
