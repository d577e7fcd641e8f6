package remitto.server.delivery;

import java.time.Clock;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.Semaphore;
import java.util.concurrent.TimeUnit;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Component;
import remitto.connect.destination.Destination;
import remitto.connect.destination.DestinationProblem;
import remitto.connect.profile.Profile;
import remitto.connect.source.SourceProblem;
import remitto.core.delivery.Circuit;
import remitto.core.manifest.Verdict;
import remitto.core.run.Suspension;
import remitto.server.destination.Circuits;
import remitto.server.manifest.Line;
import remitto.server.manifest.Lines;
import remitto.server.manifest.PlannedLines;
import remitto.server.route.BoundRoute;
import remitto.server.run.FirstWave;
import remitto.server.run.Progress;
import remitto.server.run.RunLost;
import remitto.server.run.Runs;
import remitto.server.run.Stock;
import remitto.server.run.Stop;

/**
 * Sends the planned lines of a manifest. A call is written down before it is made, and what came of its lines before
 * it is believed; an outcome nobody knows is found out, as the profile says, before a line is sent again.
 */
@Component
public class Sender {
    private static final Logger LOG = LoggerFactory.getLogger(Sender.class);

    /** Removals first: what they free, such as a unique value, the others may need. */
    private static final List<Verdict> ORDER = List.of(Verdict.REMOVED, Verdict.CHANGED, Verdict.ADDED);

    /** Threads beyond one for each call at a time: they read lines, and write down answers, while calls are under way. */
    private static final int READ_AHEAD = 2;

    private final Lines lines;
    private final PlannedLines planned;
    private final OpenCalls calls;
    private final Outcomes outcomes;
    private final ReadBack readBack;
    private final Circuits circuits;
    private final FileSender files;
    private final PreSendCheck preSendCheck;
    private final Acknowledgements acknowledgements;
    private final Runs runs;
    private final Clock clock;

    Sender(
            Lines lines,
            PlannedLines planned,
            OpenCalls calls,
            Outcomes outcomes,
            ReadBack readBack,
            Circuits circuits,
            FileSender files,
            PreSendCheck preSendCheck,
            Acknowledgements acknowledgements,
            Runs runs,
            Clock clock) {
        this.acknowledgements = acknowledgements;
        this.runs = runs;
        this.preSendCheck = preSendCheck;
        this.lines = lines;
        this.planned = planned;
        this.calls = calls;
        this.outcomes = outcomes;
        this.readBack = readBack;
        this.circuits = circuits;
        this.files = files;
        this.clock = clock;
    }

    /** @param suspension why sending stopped with lines left; {@link Suspension#NONE} when none are */
    public record Result(Suspension suspension, String message, Optional<Destination.Exchange> lastExchange) {}

    /** Sends until nothing is planned, or it has to stop. */
    public Result send(BoundRoute route, long runId, int epoch, FirstWave wave, Progress progress) {
        wave.tell(progress);
        if (route.connection().destination().files().isPresent()) {
            return files.send(route, runId, epoch, wave, progress);
        }
        Sending sending = new Sending(route, runId, epoch, wave, progress);
        try {
            sending.waitForCircuit();
            sending.recover();
            sending.run();
        } catch (DestinationProblem problem) {
            sending.broken(problem);
        } finally {
            sending.end();
        }
        return sending.result();
    }

    private final class Sending {
        private final BoundRoute route;
        private final long runId;
        private final int epoch;
        private final Profile profile;
        private final Stop stop;
        private final Stock stock;
        private final FirstWave wave;
        private final Progress progress;
        private final CallNumbers numbers;
        private final PreSendCheck.Look look;
        private final AcknowledgementQueue queue;
        private final Semaphore slots;

        Sending(BoundRoute route, long runId, int epoch, FirstWave wave, Progress progress) {
            this.route = route;
            this.runId = runId;
            this.epoch = epoch;
            this.profile = route.connection().profile();
            this.stop = new Stop(progress);
            this.stock = new Stock(planned, runId, wave);
            this.wave = wave;
            this.progress = progress;
            this.numbers = new CallNumbers(epoch);
            this.look = preSendCheck.at(route, runId, epoch);
            this.queue = acknowledgements.follow(route, runId, epoch);
            this.slots = new Semaphore(profile.limits().concurrency());
        }

        void end() {
            try (queue) {
                runs.callsEnded(runId, epoch);
            } catch (RunLost lost) {
                lost(lost);
            }
        }

        private void lost(RunLost lost) {
            LOG.warn("{}", lost.getMessage());
            stop.suspension(Suspension.LOST, String.valueOf(lost.getMessage()));
        }

        Result result() {
            return new Result(stop.suspension(), stop.message(), stop.lastExchange());
        }

        void broken(DestinationProblem problem) {
            boolean open = circuits.broken(route.destinationId(), problem);
            stop.suspension(
                    open ? Suspension.CIRCUIT : Suspension.FAULT,
                    (open ? profile.title() + " does not answer: " : "") + problem.getMessage());
        }

        /** Makes no call while the destination is known not to answer; what halts here goes on when it does. */
        void waitForCircuit() {
            Circuit circuit = circuits.of(route.destinationId());
            if (circuit.isOpen() && !circuit.allows(clock.instant())) {
                stop.suspension(Suspension.CIRCUIT, profile.title() + " does not answer: " + circuit.reason());
            }
        }

        /** Settles the calls that a process that died left open, once none of them can still land. */
        void recover() {
            if (!stop.goesOn()) {
                return;
            }
            List<OpenCalls.OpenCall> open = calls.of(runId);
            if (open.isEmpty()) {
                return;
            }
            if (profile.confirm() != Profile.Confirm.KEY) {
                stop.pause(Delivery.settlesAfter(profile).minus(calls.sinceNewest(runId)));
            }
            for (OpenCalls.OpenCall call : open) {
                if (!stop.goesOn()) {
                    return;
                }
                List<Line> batch =
                        lines.byNumber(runId, call.lines(), route.described().description());
                delivery(call.verdict()).recover(batch, call.number());
            }
        }

        void run() {
            if (!stop.goesOn()) {
                return;
            }
            int workers = profile.limits().concurrency() + READ_AHEAD;
            ExecutorService pool = Executors.newFixedThreadPool(workers, task -> new Thread(task, "send-" + runId));
            try {
                // One kind after the other, since what removals free the others may need.
                for (Verdict verdict : ORDER) {
                    List<Future<?>> running = new ArrayList<>();
                    for (int i = 0; i < workers; i++) {
                        running.add(pool.submit(() -> work(verdict)));
                    }
                    for (Future<?> one : running) {
                        one.get();
                    }
                }
                wave.closed().ifPresent(why -> stop.suspension(Suspension.WAVE, why));
            } catch (ExecutionException e) {
                if (e.getCause() instanceof DestinationProblem problem) {
                    broken(problem);
                } else if (e.getCause() instanceof RunLost lost) {
                    lost(lost);
                } else if (e.getCause() instanceof SourceProblem source) {
                    throw source;
                } else {
                    throw new IllegalStateException("sending failed", e.getCause());
                }
            } catch (InterruptedException e) {
                stop.interrupted();
            } finally {
                endAll(pool);
            }
        }

        /** Whoever takes the run up next finds nobody at work on it. */
        private void endAll(ExecutorService pool) {
            stop.end();
            pool.shutdown();
            try {
                if (!pool.awaitTermination(Delivery.settlesAfter(profile).toMillis(), TimeUnit.MILLISECONDS)) {
                    LOG.warn("Run {}: calls are still under way", runId);
                }
            } catch (InterruptedException e) {
                Thread.currentThread().interrupt();
            }
        }

        private void work(Verdict verdict) {
            int perCall = profile.recordsPerCall(verdict);
            while (stop.goesOn() && queue.areKept()) {
                List<Integer> numbers = stock.take(verdict, perCall);
                if (numbers.isEmpty()) {
                    if (wave.isFull()
                            && wave.settle(stop::goesOn)
                            && wave.closed().isEmpty()) {
                        continue;
                    }
                    return;
                }
                List<Line> batch =
                        planned.toSend(runId, numbers, route.described().description());
                progress.add(numbers.size() - batch.size());
                for (List<Line> part : BatchSize.split(batch, profile.limits().bytesPerCall())) {
                    delivery(verdict).deliver(part);
                }
            }
        }

        private Delivery delivery(Verdict verdict) {
            return new Delivery(
                    new Delivery.Tools(calls, outcomes, readBack, circuits, clock),
                    new Delivery.Task(route, runId, epoch, verdict, numbers, look, queue, slots),
                    wave,
                    stop);
        }
    }
}
