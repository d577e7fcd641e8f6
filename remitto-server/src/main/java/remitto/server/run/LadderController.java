package remitto.server.run;

import java.util.OptionalLong;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RestController;
import remitto.connect.destination.DestinationProblem;
import remitto.core.manifest.ReachLadder;
import remitto.server.destination.Connections;
import remitto.server.platform.Problem;
import remitto.server.route.Routes;

/** How many of those a manifest is about are reached, and why the others are not. */
@RestController
class LadderController {
    private final Runs runs;
    private final Lines lines;
    private final Routes routes;
    private final Connections connections;

    LadderController(Runs runs, Lines lines, Routes routes, Connections connections) {
        this.runs = runs;
        this.lines = lines;
        this.routes = routes;
        this.connections = connections;
    }

    @GetMapping("/api/runs/{id}/ladder")
    ReachLadder reachLadder(@PathVariable long id) {
        Run run = runs.get(id);
        if (run.drawnAt().isEmpty()) {
            throw Problem.conflict("Manifest " + id + " was never drawn up.");
        }
        String key = routes.version(run.routeId(), run.routeVersion()).match().stream()
                .findFirst()
                .orElse("");
        return ReachLadder.of(key, run.sums(), lines.tallies(id), found(run));
    }

    /** As the destination says now, which is of the latest manifest only. */
    private OptionalLong found(Run run) {
        boolean latest = runs.list(run.routeId(), 0, 1).stream().allMatch(one -> one.id() == run.id());
        if (run.sentAt().isEmpty() || !latest) {
            return OptionalLong.empty();
        }
        try {
            return connections.open(run.destinationId()).destination().found(run.object());
        } catch (DestinationProblem e) {
            return OptionalLong.empty();
        }
    }
}
