package remitto.server.run;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.ThreadLocalRandom;
import java.util.concurrent.atomic.AtomicReference;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Component;
import remitto.connect.destination.Destination;
import remitto.connect.destination.Destination.CallOutcome;
import remitto.connect.destination.Destination.Outgoing;
import remitto.connect.destination.Destination.RecordResult;
import remitto.connect.destination.DestinationProblem;
import remitto.core.delivery.Backoff;
import remitto.core.delivery.LineState;
import remitto.core.manifest.Verdict;
import remitto.core.value.Value;
import remitto.server.route.BoundRoute;

/**
 * Sends the planned lines of a manifest. Each line is written down as being sent before its call, and its outcome
 * before it is believed; an outcome nobody knows is read back before the line is sent again.
 */
@Component
class Sender {
    private static final Logger LOG = LoggerFactory.getLogger(Sender.class);
    /** Live values may be at most this old when a write relies on them. */
    private static final Duration FRESH = Duration.ofSeconds(60);

    /** Line numbers fetched at a time. */
    private static final int STOCK = 10_000;

    private final Lines lines;
    private final Outcomes outcomes;
    private final ReadBack readBack;
    private final Clock clock;

    Sender(Lines lines, Outcomes outcomes, ReadBack readBack, Clock clock) {
        this.lines = lines;
        this.outcomes = outcomes;
        this.readBack = readBack;
        this.clock = clock;
    }

    /** @param stopped why sending stopped with lines left; blank when none are */
    record Result(String stopped, Optional<Destination.Exchange> lastExchange) {}

    /** Sends until nothing is planned, or it has to stop. */
    Result send(BoundRoute route, long runId, int epoch, Progress progress) {
        Sending sending = new Sending(route, runId, epoch, progress);
        try {
            sending.recover();
            sending.run();
        } catch (DestinationProblem problem) {
            sending.stop(String.valueOf(problem.getMessage()));
        }
        return new Result(
                Optional.ofNullable(sending.stopped.get()).orElse(""), Optional.ofNullable(sending.exchange.get()));
    }

    private final class Sending {
        private final BoundRoute route;
        private final long runId;
        private final int epoch;
        private final Progress progress;
        private final Destination destination;
        private final int perCall;
        private final long perCallBytes;
        private final Duration longestCall;
        private final Backoff backoff = Backoff.defaults();
        private final Map<Verdict, ArrayDeque<Integer>> stock = new EnumMap<>(Verdict.class);
        private final Map<Verdict, Integer> stockedUpTo = new EnumMap<>(Verdict.class);
        private final AtomicReference<String> stopped = new AtomicReference<>();
        private final AtomicReference<Destination.Exchange> exchange = new AtomicReference<>();

        Sending(BoundRoute route, long runId, int epoch, Progress progress) {
            this.route = route;
            this.runId = runId;
            this.epoch = epoch;
            this.progress = progress;
            this.destination = route.connection().destination();
            var limits = route.connection().profile().limits();
            this.perCall = limits.recordsPerCall();
            this.perCallBytes = limits.bytesPerCall();
            this.longestCall = Duration.ofSeconds(limits.longestCallSeconds());
        }

        void stop(String why) {
            stopped.compareAndSet(null, why);
        }

        private boolean goesOn() {
            return stopped.get() == null && !progress.isCancelled();
        }

        /** Settles what a process that died left behind, once no call of it can still land. */
        void recover() {
            Optional<Instant> last = lines.newestSending(runId);
            if (last.isEmpty()) {
                return;
            }
            pause(Duration.between(clock.instant(), last.get().plus(longestCall)));
            while (true) {
                List<Line> unknown =
                        lines.unknown(runId, perCall, route.described().description());
                if (unknown.isEmpty()) {
                    return;
                }
                readBack.settle(route, runId, unknown);
            }
        }

        void run() {
            int workers = route.connection().profile().limits().concurrency();
            ExecutorService pool = Executors.newFixedThreadPool(workers, task -> new Thread(task, "send-" + runId));
            try {
                List<Future<?>> running = new ArrayList<>();
                for (int i = 0; i < workers; i++) {
                    running.add(pool.submit(this::work));
                }
                for (Future<?> one : running) {
                    one.get();
                }
            } catch (ExecutionException e) {
                if (e.getCause() instanceof DestinationProblem problem) {
                    stop(String.valueOf(problem.getMessage()));
                } else {
                    throw new IllegalStateException("sending failed", e.getCause());
                }
            } catch (InterruptedException e) {
                Thread.currentThread().interrupt();
                stop("The server was stopped");
            } finally {
                pool.shutdown();
            }
        }

        private void work() {
            for (Verdict verdict : List.of(Verdict.ADDED, Verdict.CHANGED)) {
                while (goesOn()) {
                    List<Line> claimed = claim(verdict);
                    if (claimed.isEmpty()) {
                        break;
                    }
                    for (List<Line> part : bySize(claimed)) {
                        deliver(verdict, part);
                        progress.add(part.size());
                    }
                }
            }
        }

        private List<Line> claim(Verdict verdict) {
            List<Integer> numbers = nextNumbers(verdict);
            return numbers.isEmpty()
                    ? List.of()
                    : lines.claim(runId, epoch, numbers, route.described().description());
        }

        /** Gives out line numbers in order, none twice, from a stock that is fetched many at a time. */
        private List<Integer> nextNumbers(Verdict verdict) {
            synchronized (stock) {
                ArrayDeque<Integer> left = stock.computeIfAbsent(verdict, fresh -> new ArrayDeque<>());
                if (left.isEmpty()) {
                    left.addAll(lines.planned(runId, verdict, stockedUpTo.getOrDefault(verdict, 0), STOCK));
                    if (!left.isEmpty()) {
                        stockedUpTo.put(verdict, left.getLast());
                    }
                }
                List<Integer> numbers = new ArrayList<>();
                while (numbers.size() < perCall && !left.isEmpty()) {
                    numbers.add(left.removeFirst());
                }
                return numbers;
            }
        }

        private List<List<Line>> bySize(List<Line> claimed) {
            List<List<Line>> parts = new ArrayList<>();
            List<Line> part = new ArrayList<>();
            long bytes = 0;
            for (Line line : claimed) {
                long size = 60
                        + line.fields().stream()
                                .mapToLong(field -> field.field().length()
                                        + 4L * field.fresh().display().length()
                                        + 8)
                                .sum();
                if (!part.isEmpty() && bytes + size > perCallBytes) {
                    parts.add(part);
                    part = new ArrayList<>();
                    bytes = 0;
                }
                part.add(line);
                bytes += size;
            }
            parts.add(part);
            return parts;
        }

        /** Delivers claimed lines of one verdict, whatever it takes; leaves none of them in doubt unless stopped. */
        private void deliver(Verdict verdict, List<Line> wanted) {
            List<Line> batch = verdict == Verdict.CHANGED ? onFirmGround(wanted) : wanted;
            for (int attempt = 1; !batch.isEmpty(); attempt++) {
                if (attempt > backoff.tries()) {
                    giveBack(batch);
                    return;
                }
                long started = System.nanoTime();
                CallOutcome outcome = call(verdict, batch);
                if (outcome instanceof CallOutcome.Answered answered) {
                    exchange.set(answered.exchange());
                    answered(batch, answered.results());
                    return;
                }
                if (outcome instanceof CallOutcome.Throttled) {
                    attempt--;
                    if (!goesOn()) {
                        giveBack(batch);
                        return;
                    }
                } else if (outcome instanceof CallOutcome.NotSent notSent) {
                    note(attempt, notSent.reason());
                    pause(backoff.pause(attempt, ThreadLocalRandom.current().nextDouble()));
                } else if (outcome instanceof CallOutcome.Failed failed) {
                    exchange.set(failed.exchange());
                    if (!failed.retriable()) {
                        refusedWhole(verdict, batch, failed);
                        return;
                    }
                    note(attempt, failed.status() + " " + failed.reason());
                    pause(backoff.pause(attempt, ThreadLocalRandom.current().nextDouble()));
                    batch = settleThenClaim(batch);
                } else if (outcome instanceof CallOutcome.Unknown unknown) {
                    note(attempt, unknown.reason());
                    lines.set(runId, numbers(batch), LineState.UNKNOWN, unknown.reason());
                    pause(longestCall.minus(Duration.ofNanos(System.nanoTime() - started)));
                    batch = settleThenClaim(batch);
                }
            }
        }

        private void note(int attempt, String why) {
            LOG.info("Run {}: call not taken (try {}): {}", runId, attempt, why);
        }

        private CallOutcome call(Verdict verdict, List<Line> batch) {
            String keyField = route.route().spec().match().get(0);
            List<Outgoing> outgoing = batch.stream()
                    .map(line -> {
                        Map<String, Value> fields = Outcomes.written(line);
                        return new Outgoing(line.remoteId(), fields.getOrDefault(keyField, Value.EMPTY), fields);
                    })
                    .toList();
            return verdict == Verdict.ADDED
                    ? destination.add(route.described().description(), keyField, outgoing)
                    : destination.update(route.described().description(), outgoing);
        }

        private List<Line> onFirmGround(List<Line> wanted) {
            Instant limit = clock.instant().minus(FRESH);
            List<Line> stale = wanted.stream()
                    .filter(line -> line.thereReadAt().isEmpty()
                            || line.thereReadAt().get().isBefore(limit))
                    .toList();
            if (stale.isEmpty()) {
                return wanted;
            }
            List<Line> good = new ArrayList<>(wanted);
            good.removeAll(stale);
            good.addAll(readBack.checkGround(route, runId, stale));
            return good;
        }

        private List<Line> settleThenClaim(List<Line> batch) {
            List<Line> again = readBack.settle(route, runId, batch);
            lines.set(runId, numbers(again), LineState.SENDING, "");
            return again;
        }

        private void answered(List<Line> batch, List<RecordResult> results) {
            List<Outcomes.Acknowledged> done = new ArrayList<>();
            List<Outcomes.Refused> refused = new ArrayList<>();
            for (int i = 0; i < batch.size(); i++) {
                RecordResult result = results.get(i);
                if (result.accepted()) {
                    done.add(new Outcomes.Acknowledged(batch.get(i), result.id(), result.outcome()));
                } else if (result.movedOn()) {
                    outcomes.movedOn(runId, batch.get(i), result.reason());
                } else {
                    refused.add(new Outcomes.Refused(batch.get(i), result.reason()));
                }
            }
            outcomes.acknowledged(route, runId, done);
            outcomes.refused(route, runId, refused);
        }

        /** One bad record never stops the others: split until it stands alone. */
        private void refusedWhole(Verdict verdict, List<Line> batch, CallOutcome.Failed failed) {
            if (failed.status() == 401 || failed.status() == 403) {
                stop(route.connection().profile().title() + " refused to sign in (" + failed.status() + "): "
                        + failed.reason());
                giveBack(batch);
            } else if (batch.size() == 1) {
                outcomes.refused(
                        route,
                        runId,
                        List.of(new Outcomes.Refused(batch.get(0), failed.status() + ": " + failed.reason())));
            } else {
                deliver(verdict, batch.subList(0, batch.size() / 2));
                deliver(verdict, batch.subList(batch.size() / 2, batch.size()));
            }
        }

        private void giveBack(List<Line> batch) {
            lines.set(runId, numbers(batch), LineState.PLANNED, "");
            stop(route.connection().profile().title() + " did not take a call in " + backoff.tries() + " tries");
        }

        private void pause(Duration length) {
            if (length.isNegative() || length.isZero()) {
                return;
            }
            try {
                Thread.sleep(length.toMillis());
            } catch (InterruptedException e) {
                Thread.currentThread().interrupt();
                stop("The server was stopped");
            }
        }

        private List<Integer> numbers(List<Line> batch) {
            return batch.stream().map(Line::number).toList();
        }
    }
}
