package remitto.server.reach;

import java.util.Optional;
import java.util.OptionalLong;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RestController;
import remitto.connect.destination.Destination;
import remitto.connect.destination.DestinationProblem;
import remitto.core.manifest.ReachLadder;
import remitto.core.route.Mode;
import remitto.server.destination.Connections;
import remitto.server.manifest.Lines;
import remitto.server.permission.CurrentUser;
import remitto.server.platform.Problem;
import remitto.server.route.Routes;
import remitto.server.run.Run;
import remitto.server.run.Runs;

/** How many of those a manifest is about are reached, and why the others are not. */
@RestController
class LadderController {
    private final CurrentUser user;
    private final Runs runs;
    private final Lines lines;
    private final Routes routes;
    private final Connections connections;

    LadderController(CurrentUser user, Runs runs, Lines lines, Routes routes, Connections connections) {
        this.user = user;
        this.runs = runs;
        this.lines = lines;
        this.routes = routes;
        this.connections = connections;
    }

    /** How many people of an audience reach the destination, step by step, with the reason of every loss. */
    @GetMapping("/api/runs/{id}/ladder")
    ReachLadder reachLadder(@PathVariable long id) {
        Run run = runs.get(id);
        if (run.preparedAt().isEmpty()) {
            throw Problem.conflict("Manifest " + id + " was never prepared.");
        }
        String key = routes.version(run.routeId(), run.routeVersion()).match().stream()
                .findFirst()
                .orElse("");
        return ReachLadder.of(key, run.counts(), lines.tallies(id), found(run));
    }

    /**
     * The list that a manifest is for.
     *
     * @param members that are on it now
     * @param after that would be or were on it once all of the manifest is sent
     * @param smallest members it needs before the destination makes use of it
     */
    record ListOutlook(Optional<Long> members, Optional<Long> after, Optional<Long> smallest) {
        static final ListOutlook NOTHING = new ListOutlook(Optional.empty(), Optional.empty(), Optional.empty());
    }

    /** What sending would make of the list; nothing is told where the object is no list, or the destination does not say. */
    @GetMapping("/api/runs/{id}/list")
    ListOutlook listOutlook(@PathVariable long id) {
        Run run = runs.get(id);
        if (!user.mayCallOut()
                || routes.version(run.routeId(), run.routeVersion()).mode() != Mode.MEMBERSHIP) {
            return ListOutlook.NOTHING;
        }
        try {
            Destination.ListFacts facts =
                    connections.open(run.destinationId()).destination().listFacts(run.object());
            long left = run.outcomes().getOrDefault("PLANNED", 0L);
            long more = left == 0 ? 0 : run.counts().added() - run.counts().removed();
            Optional<Long> members = optional(facts.members());
            return new ListOutlook(members, members.map(now -> now + more), optional(facts.smallest()));
        } catch (DestinationProblem e) {
            return ListOutlook.NOTHING;
        }
    }

    private static Optional<Long> optional(OptionalLong number) {
        return number.isPresent() ? Optional.of(number.getAsLong()) : Optional.empty();
    }

    /** As the destination says now, which is of the latest manifest only. */
    private OptionalLong found(Run run) {
        boolean latest = runs.list(run.routeId(), 0, 1).stream().allMatch(one -> one.id() == run.id());
        if (run.sentAt().isEmpty() || !latest || !user.mayCallOut()) {
            return OptionalLong.empty();
        }
        try {
            return connections
                    .open(run.destinationId())
                    .destination()
                    .listFacts(run.object())
                    .found();
        } catch (DestinationProblem e) {
            return OptionalLong.empty();
        }
    }
}
