package remitto.server.run;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.springframework.stereotype.Component;
import remitto.connect.destination.Destination;
import remitto.connect.destination.Destination.RemoteRecord;
import remitto.core.delivery.LineState;
import remitto.core.manifest.FieldDecision;
import remitto.core.manifest.FieldOutcome;
import remitto.core.manifest.Verdict;
import remitto.core.value.Value;
import remitto.server.route.BoundRoute;

/**
 * Finds out by reading what became of writes that got no answer: the new values there mean they took effect, the
 * old ones that they did not, any others that somebody else wrote.
 */
@Component
class ReadBack {
    private final Lines lines;
    private final Outcomes outcomes;

    ReadBack(Lines lines, Outcomes outcomes) {
        this.lines = lines;
        this.outcomes = outcomes;
    }

    /** Settles lines of unknown outcome; those that did not take effect are planned again and returned. */
    List<Line> settle(BoundRoute route, long runId, List<Line> unknown) {
        List<Line> again = new ArrayList<>();
        List<Outcomes.Acknowledged> done = new ArrayList<>();
        Map<Integer, RemoteRecord> found = find(route, unknown);
        for (Line line : unknown) {
            RemoteRecord there = found.get(line.number());
            if (there == null) {
                if (line.verdict() == Verdict.ADDED) {
                    again.add(line);
                } else {
                    outcomes.movedOn(runId, line, "The record is no longer there");
                }
            } else if (holds(there, line, true)) {
                done.add(new Outcomes.Acknowledged(line, there.id(), "found written when read back"));
            } else if (line.verdict() == Verdict.CHANGED && holds(there, line, false)) {
                again.add(line);
            } else {
                outcomes.movedOn(runId, line, "Read back after an unknown outcome: other values are there now");
            }
        }
        outcomes.acknowledged(route, runId, done);
        lines.set(runId, again.stream().map(Line::number).toList(), LineState.PLANNED, "");
        return again;
    }

    /**
     * Checks lines whose old values were read some time ago, and sets aside those whose ground moved.
     *
     * @return the lines that may still be sent
     */
    List<Line> checkGround(BoundRoute route, long runId, List<Line> planned) {
        Map<Integer, RemoteRecord> found = find(route, planned);
        List<Line> good = new ArrayList<>();
        for (Line line : planned) {
            RemoteRecord there = found.get(line.number());
            if (there == null) {
                outcomes.movedOn(runId, line, "The record is no longer there");
            } else if (!holds(there, line, false)) {
                outcomes.movedOn(runId, line, "Moved on: " + difference(there, line));
            } else {
                good.add(line);
            }
        }
        return good;
    }

    private Map<Integer, RemoteRecord> find(BoundRoute route, List<Line> wanted) {
        Map<Integer, RemoteRecord> found = new HashMap<>();
        List<Line> added =
                wanted.stream().filter(line -> line.verdict() == Verdict.ADDED).toList();
        List<Line> changed =
                wanted.stream().filter(line -> line.verdict() != Verdict.ADDED).toList();
        String keyField = route.route().spec().match().get(0);
        byValue(route, keyField, added, line -> Outcomes.written(line).getOrDefault(keyField, Value.EMPTY), found);
        byValue(route, Destination.ID, changed, line -> new Value.Text(line.remoteId()), found);
        return found;
    }

    private static void byValue(
            BoundRoute route,
            String by,
            List<Line> wanted,
            java.util.function.Function<Line, Value> value,
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
