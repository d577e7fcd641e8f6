package remitto.server.run.life;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Component;
import remitto.core.cause.Cause;
import remitto.core.cause.CauseKind;
import remitto.core.known.RecordState;
import remitto.core.value.Value;
import remitto.server.delivery.Outcomes;
import remitto.server.delivery.Settlement;
import remitto.server.held.HeldRecords;
import remitto.server.journal.Journal;
import remitto.server.known.RouteRecords;
import remitto.server.manifest.Line;
import remitto.server.manifest.Lines;
import remitto.server.permission.ActorNames;
import remitto.server.platform.Problem;
import remitto.server.route.BoundRoute;
import remitto.server.run.ServiceRoutes;

/** What people decide about held records. */
@Component
class HeldDecisions {
    private static final Logger LOG = LoggerFactory.getLogger(HeldDecisions.class);
    private static final int AT_ONCE = 10_000;
    private static final Cause UNKNOWN = Cause.of(CauseKind.OUTCOME_UNKNOWN);

    private final ActorNames names;
    private final HeldRecords held;
    private final RunDecisions decisions;
    private final ServiceRoutes serviceRoutes;
    private final Lines lines;
    private final Outcomes outcomes;
    private final RouteRecords records;
    private final Journal journal;

    HeldDecisions(
            ActorNames names,
            HeldRecords held,
            RunDecisions decisions,
            ServiceRoutes serviceRoutes,
            Lines lines,
            Outcomes outcomes,
            RouteRecords records,
            Journal journal) {
        this.names = names;
        this.held = held;
        this.decisions = decisions;
        this.serviceRoutes = serviceRoutes;
        this.lines = lines;
        this.outcomes = outcomes;
        this.records = records;
        this.journal = journal;
    }

    /**
     * Tries held records again now, with their rows read again.
     *
     * @param keys of the records; none means all of the group
     * @return the run that tries them
     */
    long retry(long routeId, String code, List<String> keys, String who) {
        Cause cause = cause(code);
        if (!cause.kind().orElseThrow().remedies().contains(CauseKind.Remedy.TRY_AGAIN)) {
            throw Problem.invalid(why(cause));
        }
        List<String> wanted = keys.isEmpty() ? held.keys(routeId, cause, AT_ONCE) : keys;
        if (wanted.isEmpty()) {
            throw Problem.invalid("No record of this route is held for this reason.");
        }
        held.release(routeId, wanted);
        return decisions.retry(routeId, wanted, who);
    }

    private static Cause cause(String code) {
        try {
            Cause cause = Cause.read(code);
            if (!cause.isNone()) {
                return cause;
            }
        } catch (IllegalArgumentException unknown) {
            LOG.debug("Asked for a cause that does not exist", unknown);
        }
        throw Problem.invalid("Name an existing cause; none has the name \"" + code + "\".");
    }

    /** Why records that are held for a cause are not simply sent again. */
    private static String why(Cause cause) {
        if (cause.is(CauseKind.OUTCOME_UNKNOWN)) {
            return "Decide for these records whether they arrived. They are not sent again automatically.";
        }
        return cause.is(CauseKind.NO_KEY)
                ? "Rows without a key cannot be retried; the next run reads them again."
                : "Retrying would not change anything: " + cause.title() + ".";
    }

    /**
     * A person's word about records of which nobody knows whether they arrived.
     *
     * @return how many were settled
     */
    int settle(long routeId, List<String> keys, boolean arrived, String who) {
        List<String> wanted = keys.isEmpty() ? held.keys(routeId, UNKNOWN, AT_ONCE) : keys;
        BoundRoute route = serviceRoutes.toRun(routeId);
        Map<Long, List<Integer>> places = new HashMap<>();
        held.places(routeId, UNKNOWN, wanted)
                .forEach(place -> places.computeIfAbsent(place.runId(), run -> new ArrayList<>())
                        .add(place.line()));
        int settled = 0;
        for (var entry : places.entrySet()) {
            List<Line> found = lines.byNumber(
                    entry.getKey(), entry.getValue(), route.described().description());
            settle(route, entry.getKey(), found, arrived, who);
            settled += found.size();
        }
        journal.write(
                who,
                arrived ? "said that records arrived" : "said that records did not arrive",
                new Journal.Subject("route", routeId, route.name()),
                settled + " records");
        return settled;
    }

    private void settle(BoundRoute route, long runId, List<Line> found, boolean arrived, String who) {
        String keyField = route.route().spec().match().get(0);
        Settlement settlement = new Settlement();
        for (Line line : found) {
            if (arrived) {
                String id = line.remoteId().isEmpty()
                        ? line.written().getOrDefault(keyField, Value.EMPTY).display()
                        : line.remoteId();
                settlement.acknowledged(line, id, "arrived, says " + names.of(who));
            } else {
                settlement.movedOn(line, "did not arrive, says " + names.of(who) + "; goes with the next run");
            }
        }
        outcomes.settle(route, new Outcomes.Maker(runId, 0, 0), settlement);
        if (!arrived) {
            records.remember(
                    route.routeId(),
                    found.stream()
                            .map(line -> new RouteRecords.Remembered(line.ordinal(), 0, 0, RecordState.NONE, ""))
                            .toList());
            held.released(route.routeId(), found.stream().map(Line::key).toList());
        }
    }
}
