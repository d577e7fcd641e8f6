package remitto.server.delivery;

import java.time.Clock;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.ThreadLocalRandom;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Component;
import remitto.connect.destination.DestinationProblem;
import remitto.connect.destination.WholeFiles;
import remitto.core.delivery.AfterCall;
import remitto.core.delivery.Backoff;
import remitto.core.delivery.CallEnd;
import remitto.core.delivery.Circuit;
import remitto.core.file.FileForm;
import remitto.core.manifest.Verdict;
import remitto.core.run.Suspension;
import remitto.server.destination.Circuits;
import remitto.server.destination.DeliveredFiles;
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
 * Sends the planned lines of a manifest as one file. The file is one call: written down before it is made, and its lines are
 * believed once the file lies there under its own name. After a crash the same file is written again under the same name, so
 * nothing is lost and nothing is there twice.
 */
@Component
class FileSender {
    private static final Logger LOG = LoggerFactory.getLogger(FileSender.class);
    private static final List<Verdict> ORDER = List.of(Verdict.REMOVED, Verdict.CHANGED, Verdict.ADDED);
    private static final int PART = 1_000;

    private final Lines lines;
    private final PlannedLines planned;
    private final OpenCalls calls;
    private final Outcomes outcomes;
    private final FileRows rows;
    private final DeliveredFiles files;
    private final Circuits circuits;
    private final Runs runs;
    private final PreSendCheck preSendCheck;
    private final Clock clock;

    FileSender(
            Lines lines,
            PlannedLines planned,
            OpenCalls calls,
            Outcomes outcomes,
            FileRows rows,
            DeliveredFiles files,
            Circuits circuits,
            Runs runs,
            PreSendCheck preSendCheck,
            Clock clock) {
        this.preSendCheck = preSendCheck;
        this.lines = lines;
        this.planned = planned;
        this.calls = calls;
        this.outcomes = outcomes;
        this.rows = rows;
        this.files = files;
        this.circuits = circuits;
        this.runs = runs;
        this.clock = clock;
    }

    Sender.Result send(BoundRoute route, long runId, int epoch, FirstWave wave, Progress progress) {
        Sending sending = new Sending(route, runId, epoch, wave, progress);
        sending.send();
        return new Sender.Result(sending.stop.suspension(), sending.stop.message(), Optional.empty());
    }

    private final class Sending {
        private final BoundRoute route;
        private final WholeFiles destination;
        private final long runId;
        private final int epoch;
        private final FirstWave wave;
        private final Stop stop;
        private final Stock stock;
        private final CallNumbers numbers;
        private final PreSendCheck.Look look;
        private final Backoff backoff = Backoff.defaults();

        Sending(BoundRoute route, long runId, int epoch, FirstWave wave, Progress progress) {
            this.route = route;
            this.destination = route.connection().destination().files().orElseThrow();
            this.runId = runId;
            this.epoch = epoch;
            this.wave = wave;
            this.stop = new Stop(progress);
            this.stock = new Stock(planned, runId, wave);
            this.numbers = new CallNumbers(epoch);
            this.look = preSendCheck.at(route, runId, epoch);
        }

        void send() {
            Circuit circuit = circuits.of(route.destinationId());
            if (circuit.isOpen() && !circuit.allows(clock.instant())) {
                stop.suspension(Suspension.CIRCUIT, title() + " does not answer: " + circuit.reason());
                return;
            }
            try {
                for (OpenCalls.OpenCall open : calls.of(runId)) {
                    deliver(open.number(), open.lines());
                }
                boolean more = true;
                while (more && stop.goesOn()) {
                    List<Integer> planned = allowed(spellable(takeAll()));
                    if (!planned.isEmpty()) {
                        deliver(numbers.next(), planned);
                    }
                    more = wave.isFull()
                            && wave.settle(stop::goesOn)
                            && wave.closed().isEmpty();
                }
                wave.closed().ifPresent(why -> stop.suspension(Suspension.WAVE, why));
            } catch (RunLost lost) {
                LOG.warn("{}", lost.getMessage());
                stop.suspension(Suspension.LOST, String.valueOf(lost.getMessage()));
            }
        }

        private String title() {
            return route.connection().profile().title();
        }

        private List<Integer> takeAll() {
            List<Integer> all = new ArrayList<>();
            for (Verdict verdict : ORDER) {
                List<Integer> some = stock.take(verdict, Integer.MAX_VALUE);
                while (!some.isEmpty()) {
                    all.addAll(some);
                    some = stock.take(verdict, Integer.MAX_VALUE);
                }
            }
            return all;
        }

        /** Refuses the lines that the file's encoding has no characters for; the others go. */
        private List<Integer> spellable(List<Integer> planned) {
            String object = route.described().description().name();
            boolean every = !(destination.layout(object).form() instanceof FileForm.Csv csv)
                    || csv.encoding().charset().startsWith("UTF");
            if (every) {
                return planned;
            }
            Set<Integer> refused = new HashSet<>();
            for (int from = 0; from < planned.size(); from += PART) {
                for (Line line : read(planned.subList(from, Math.min(planned.size(), from + PART)))) {
                    List<String> faults =
                            destination.unspellable(object, new WholeFiles.FileRow(line.verdict(), line.written()));
                    if (!faults.isEmpty()) {
                        Settlement alone = new Settlement();
                        alone.refused(line, String.join("; ", faults));
                        outcomes.settle(route, new Outcomes.Maker(runId, epoch, 0), alone);
                        wave.settled(1, 1);
                        refused.add(line.number());
                    }
                }
            }
            return planned.stream().filter(line -> !refused.contains(line)).toList();
        }

        private List<Integer> allowed(List<Integer> planned) {
            List<Integer> allowed = new ArrayList<>();
            for (int from = 0; from < planned.size(); from += PART) {
                look.mayGo(read(planned.subList(from, Math.min(planned.size(), from + PART))), wave)
                        .forEach(line -> allowed.add(line.number()));
            }
            return allowed;
        }

        private List<Line> read(List<Integer> some) {
            return lines.byNumber(runId, some, route.described().description());
        }

        private void deliver(int call, List<Integer> planned) {
            Optional<String> path = files.path(runId, call);
            if (path.isEmpty()) {
                calls.open(runId, epoch, call, planned);
                path = put(call, planned);
            }
            if (path.isPresent()) {
                settle(call, planned, path.get());
            } else {
                calls.close(runId, call);
            }
        }

        private Optional<String> put(int call, List<Integer> planned) {
            int number = files.count(runId) + 1;
            String object = route.described().description().name();
            WholeFiles.FileRequest request = new WholeFiles.FileRequest(
                    object, route.name(), runId, runs.get(runId).startedAt(), number);
            stop.awaitHold();
            for (int attempt = 1; stop.goesOn(); attempt++) {
                try {
                    WholeFiles.DeliveredFile file = destination.deliver(
                            request,
                            sink -> rows.each(
                                    destination.layout(object).content(), route, runId, planned, look.known(), sink));
                    circuits.answered(route.destinationId());
                    files.add(runId, number, call, file);
                    return Optional.of(file.path());
                } catch (DestinationProblem problem) {
                    failed(problem, attempt);
                }
            }
            return Optional.empty();
        }

        private void failed(DestinationProblem problem, int attempt) {
            CallEnd end = new CallEnd.Unheard(String.valueOf(problem.getMessage()));
            LOG.info("Run {}: the file was not taken (try {}): {}", runId, attempt, end.why());
            if (problem.kind() != DestinationProblem.Kind.UNREACHABLE) {
                stop.suspension(Suspension.FAULT, end.why());
                return;
            }
            AfterCall next = AfterCall.of(
                    end,
                    new AfterCall.At(attempt, 0, 1, circuits.failed(route.destinationId(), end.why())),
                    new AfterCall.Words(title(), "the file"),
                    backoff,
                    ThreadLocalRandom.current().nextDouble());
            if (next instanceof AfterCall.Stop suspension) {
                stop.suspension(suspension.suspension(), suspension.message());
            } else if (next instanceof AfterCall.Again again) {
                stop.pause(again.pause());
            }
        }

        private void settle(int call, List<Integer> planned, String path) {
            String key = route.route().spec().match().get(0);
            for (int from = 0; from < planned.size(); from += PART) {
                Settlement settlement = new Settlement();
                read(planned.subList(from, Math.min(planned.size(), from + PART)))
                        .forEach(line -> settlement.acknowledged(line, id(line, key), path));
                outcomes.settle(route, new Outcomes.Maker(runId, epoch, 0), settlement);
                wave.settled(settlement.acknowledged.size(), 0);
            }
            calls.close(runId, call);
        }

        private static String id(Line line, String key) {
            return line.remoteId().isEmpty()
                    ? line.written()
                            .getOrDefault(key, remitto.core.value.Value.EMPTY)
                            .display()
                    : line.remoteId();
        }
    }
}
