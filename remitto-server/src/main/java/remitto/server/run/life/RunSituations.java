package remitto.server.run.life;

import java.util.List;
import org.springframework.stereotype.Component;
import remitto.core.run.RunSituation;
import remitto.core.run.RunState;
import remitto.server.run.Run;
import remitto.server.run.Runs;

/** Gathers what decides what may be done with a run now. */
@Component
class RunSituations {
    private final Runs runs;
    private final Contributors contributors;

    RunSituations(Runs runs, Contributors contributors) {
        this.runs = runs;
        this.contributors = contributors;
    }

    RunSituation of(Run run) {
        return new RunSituation(
                run.state(),
                run.suspension(),
                run.sentAt().isPresent(),
                run.outcomes().getOrDefault("ACKNOWLEDGED", 0L),
                run.linesRemovedAt().isEmpty(),
                runs.waiting(run.routeId()).stream().findFirst(),
                run.state() == RunState.AWAITING_APPROVAL ? contributors.of(run.routeId()) : List.of());
    }
}
