package remitto.server.planning;

import java.time.Clock;
import java.time.Duration;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.springframework.stereotype.Component;
import remitto.core.guard.GuardInput;
import remitto.server.destination.SchemaChanges;
import remitto.server.platform.Json;
import remitto.server.route.BoundRoute;
import remitto.server.run.Prepared;
import remitto.server.run.RunHistory;

/** Gathers what the guards of a route look at, and asks them. */
@Component
public class RunGuards {
    private static final Duration WEEK = Duration.ofDays(7);

    private final RunHistory history;
    private final SchemaChanges changes;
    private final Json json;
    private final Clock clock;

    RunGuards(RunHistory history, SchemaChanges changes, Json json, Clock clock) {
        this.history = history;
        this.changes = changes;
        this.json = json;
        this.clock = clock;
    }

    /** Why a manifest must wait for an approver; nothing when it need not. */
    public List<String> check(long runId, BoundRoute route, Prepared prepared, String fieldCounts) {
        Map<String, Long> cleared = new HashMap<>();
        json.tree(fieldCounts)
                .properties()
                .forEach(entry -> cleared.put(
                        entry.getKey(), entry.getValue().path("cleared").asLong(0)));
        Optional<RunHistory.Before> before = history.before(route.routeId(), runId);
        RunHistory.Moved week =
                history.movedSince(route.routeId(), clock.instant().minus(WEEK));
        GuardInput guardInput = new GuardInput(
                prepared.counts(),
                prepared.knownBefore(),
                cleared,
                before.map(RunHistory.Before::read),
                before.map(last -> changes.since(
                                route.destinationId(),
                                route.described().description().name(),
                                last.preparedAt()))
                        .orElse(List.of()),
                week.removed(),
                week.added());
        List<String> stops = new ArrayList<>(prepared.unexpected());
        stops.addAll(route.route().spec().guards().check(guardInput));
        return stops;
    }
}
