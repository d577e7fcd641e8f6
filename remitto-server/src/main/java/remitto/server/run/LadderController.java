package remitto.server.run;

import java.util.OptionalLong;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RestController;
import remitto.core.manifest.ReachLadder;
import remitto.server.platform.Problem;
import remitto.server.route.Routes;

/** How many of those a manifest is about are reached, and why the others are not. */
@RestController
class LadderController {
    private final Runs runs;
    private final Lines lines;
    private final Routes routes;

    LadderController(Runs runs, Lines lines, Routes routes) {
        this.runs = runs;
        this.lines = lines;
        this.routes = routes;
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
        return ReachLadder.of(key, run.sums(), lines.tallies(id), OptionalLong.empty());
    }
}
