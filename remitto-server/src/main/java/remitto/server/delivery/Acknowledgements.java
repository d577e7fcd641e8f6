package remitto.server.delivery;

import java.time.Duration;
import org.springframework.stereotype.Component;
import remitto.server.route.BoundRoute;
import remitto.server.run.RunLost;

/** Applies the acknowledgements of runs: outcomes and known state that follow from what their calls brought. */
@Component
public class Acknowledgements {
    static final AcknowledgementQueue.Limits LIMITS =
            new AcknowledgementQueue.Limits(5_000, 250_000, Duration.ofSeconds(10));

    private final OpenCalls calls;
    private final Outcomes outcomes;
    private final MachineLoad load;

    Acknowledgements(OpenCalls calls, Outcomes outcomes, MachineLoad load) {
        this.calls = calls;
        this.outcomes = outcomes;
        this.load = load;
    }

    /**
     * Takes the calls of a run over from whoever worked on it before, and takes in what they brought.
     *
     * @throws RunLost if the run is no longer this process's own
     */
    public void takeUp(BoundRoute route, long runId, int epoch) {
        calls.takeUp(runId, epoch);
        AcknowledgementQueue queue = queue(route, runId, epoch);
        calls.answered(runId).forEach(queue::add);
        queue.takeInAll();
    }

    /** Begins to follow the calls of a run; the caller closes the queue. */
    AcknowledgementQueue follow(BoundRoute route, long runId, int epoch) {
        AcknowledgementQueue queue = queue(route, runId, epoch);
        queue.follow("acknowledgements-" + runId);
        return queue;
    }

    private AcknowledgementQueue queue(BoundRoute route, long runId, int epoch) {
        return new AcknowledgementQueue(some -> outcomes.takeIn(route, runId, epoch, some), load::hasTime, LIMITS);
    }
}
