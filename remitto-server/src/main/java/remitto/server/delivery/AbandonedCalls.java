package remitto.server.delivery;

import java.util.List;
import org.springframework.stereotype.Component;
import remitto.server.manifest.Line;
import remitto.server.manifest.Lines;
import remitto.server.route.BoundRoute;
import remitto.server.run.Run;
import remitto.server.run.Runs;
import remitto.server.run.ServiceRoutes;

/** Calls whose outcome nobody waits for any more, since their run was given up. */
@Component
public class AbandonedCalls {
    private final OpenCalls calls;
    private final Lines lines;
    private final Outcomes outcomes;
    private final Acknowledgements acknowledgements;
    private final Runs runs;
    private final ServiceRoutes serviceRoutes;

    AbandonedCalls(
            OpenCalls calls,
            Lines lines,
            Outcomes outcomes,
            Acknowledgements acknowledgements,
            Runs runs,
            ServiceRoutes serviceRoutes) {
        this.acknowledgements = acknowledgements;
        this.runs = runs;
        this.calls = calls;
        this.lines = lines;
        this.outcomes = outcomes;
        this.serviceRoutes = serviceRoutes;
    }

    /**
     * Writes down that the outcome of a given-up run's open calls is unknown. Where records can be looked up, the next
     * run finds out by itself; elsewhere a person decides.
     */
    public void settle(Run run) {
        List<OpenCalls.OpenCall> open = calls.of(run.id());
        if (open.isEmpty() && calls.answered(run.id()).isEmpty()) {
            return;
        }
        BoundRoute route = serviceRoutes.toRun(run.routeId());
        acknowledgements.takeUp(route, run.id(), runs.epoch(run.id()));
        for (OpenCalls.OpenCall call : open) {
            Settlement settlement = new Settlement();
            String why = "The manifest was given up while the call was under way";
            for (Line line :
                    lines.byNumber(run.id(), call.lines(), route.described().description())) {
                if (route.reads()) {
                    settlement.movedOn(line, why + "; the next run looks");
                } else {
                    settlement.unknown(line, why);
                }
            }
            outcomes.settle(route, new Outcomes.Maker(run.id(), 0, 0), settlement);
            calls.close(run.id(), call.number());
        }
    }
}
