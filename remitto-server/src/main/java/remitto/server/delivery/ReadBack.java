package remitto.server.delivery;

import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Function;
import org.springframework.stereotype.Component;
import remitto.connect.destination.Destination;
import remitto.connect.destination.Destination.RemoteRecord;
import remitto.core.manifest.FieldDecision;
import remitto.core.manifest.FieldOutcome;
import remitto.core.manifest.Verdict;
import remitto.core.value.Value;
import remitto.server.manifest.Line;
import remitto.server.manifest.Lines;
import remitto.server.route.BoundRoute;

/**
 * Finds out by reading what became of writes that got no answer: the new values there mean they took effect, the
 * old ones that they did not, any others that somebody else wrote.
 */
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
        if (line.verdict() == Verdict.REMOVED) {
            if (there.isEmpty()) {
                settlement.acknowledged(line, line.remoteId(), "found gone when read back");
            } else {
                settlement.again.add(line);
            }
        } else if (there.isEmpty()) {
            if (line.verdict() == Verdict.ADDED) {
                settlement.again.add(line);
            } else {
                settlement.movedOn(line, "The record is no longer there");
            }
        } else if (holds(there.get(), line, true)) {
            settlement.acknowledged(line, there.get().id(), "found written when read back");
        } else if (line.verdict() == Verdict.CHANGED && holds(there.get(), line, false)) {
            settlement.again.add(line);
        } else {
            settlement.movedOn(line, "Read back after an unknown outcome: other values are there now");
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
            RemoteRecord there = found.get(line.number());
            if (there == null) {
                settlement.movedOn(line, "The record is no longer there");
            } else if (line.verdict() == Verdict.CHANGED && !holds(there, line, false)) {
                settlement.movedOn(line, "Moved on: " + difference(there, line));
            } else {
                settlement.again.add(line);
            }
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
                .destination()
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

    private static boolean holds(RemoteRecord there, Line line, boolean fresh) {
        return line.fields().stream()
                .filter(field -> field.outcome() == FieldOutcome.WRITTEN)
                .allMatch(field -> same(there, field, fresh ? field.fresh() : field.old()));
    }

    private static boolean same(RemoteRecord there, FieldDecision field, Value wanted) {
        Value now = there.fields().getOrDefault(field.field(), Value.EMPTY);
        return now.equals(wanted) || now.isEmpty() && wanted.isEmpty();
    }

    private static String difference(RemoteRecord there, Line line) {
        return line.fields().stream()
                .filter(field -> field.outcome() == FieldOutcome.WRITTEN && !same(there, field, field.old()))
                .findFirst()
                .map(field -> field.field() + " there is now \""
                        + there.fields()
                                .getOrDefault(field.field(), Value.EMPTY)
                                .display() + "\", not \""
                        + field.old().display() + "\"")
                .orElse("what is there changed");
    }
}
