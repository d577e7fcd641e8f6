package remitto.server.run.life;

import jakarta.annotation.PreDestroy;
import java.time.Duration;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.UUID;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.ScheduledExecutorService;
import java.util.concurrent.TimeUnit;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.boot.context.event.ApplicationReadyEvent;
import org.springframework.context.event.EventListener;
import org.springframework.dao.DuplicateKeyException;
import org.springframework.stereotype.Component;
import remitto.connect.destination.DestinationProblem;
import remitto.connect.source.SourceProblem;
import remitto.core.dataset.Row;
import remitto.core.run.Asked;
import remitto.core.run.RunEnd;
import remitto.core.run.RunState;
import remitto.core.run.RunTrigger;
import remitto.core.run.Suspension;
import remitto.server.delivery.Acknowledgements;
import remitto.server.delivery.Sender;
import remitto.server.destination.Circuits;
import remitto.server.destination.Connections;
import remitto.server.manifest.LinePartitions;
import remitto.server.manifest.Lines;
import remitto.server.manifest.PlannedLines;
import remitto.server.planning.ManifestPreparation;
import remitto.server.planning.RunGuards;
import remitto.server.platform.DatabaseTrouble;
import remitto.server.platform.Lane;
import remitto.server.platform.LogContext;
import remitto.server.platform.Problem;
import remitto.server.platform.Traces;
import remitto.server.route.BoundRoute;
import remitto.server.run.FirstWave;
import remitto.server.run.Prepared;
import remitto.server.run.Progress;
import remitto.server.run.Run;
import remitto.server.run.RunHistory;
import remitto.server.run.RunLease;
import remitto.server.run.RunLost;
import remitto.server.run.Runs;
import remitto.server.run.ServiceRoutes;
import remitto.server.run.Tenure;
import remitto.server.run.Turns;
import remitto.server.run.Working;
import remitto.server.undo.UndoPreparation;

/**
 * Works on the runs this process owns, and takes over those whose owner fell silent: a manifest that was being drawn
 * up is closed, one that was being sent is finished.
 */
@Component
public class RunKeeper {
    private static final Logger LOG = LoggerFactory.getLogger(RunKeeper.class);
    private static final int AT_ONCE = 4;
    /** What ends its server each time must not do so for ever. */
    private static final int MOST_INTERRUPTED = 5;

    private static final Duration MARGIN = Duration.ofSeconds(3);
    private static final Duration ENDS_WITHIN = Duration.ofSeconds(20);
    private static final Duration BEAT = Duration.ofSeconds(2);
    private static final Duration SILENCE = Duration.ofSeconds(10);

    private final LinePartitions partitions;
    private final ServiceRoutes serviceRoutes;
    private final Runs runs;
    private final RunLease lease;
    private final Turns turns;
    private final RunHistory history;
    private final Lines lines;
    private final PlannedLines planned;
    private final ManifestPreparation preparation;
    private final UndoPreparation undoPreparation;
    private final Acknowledgements acknowledgements;
    private final Sender sender;
    private final RunGuards guards;
    private final PreparedManifests manifests;
    private final Connections connections;
    private final Circuits circuits;
    private final Traces traces;
    private final String owner = UUID.randomUUID().toString();
    private final Working working = new Working();
    /** Apart, so that slow sends keep no manifest from being prepared, and neither keeps a probe that would end a wait. */
    private final ExecutorService planning = Executors.newFixedThreadPool(AT_ONCE, task -> new Thread(task, "plan"));

    private final ExecutorService sending = Executors.newFixedThreadPool(2 * AT_ONCE, task -> new Thread(task, "send"));
    private final ExecutorService upkeep = Executors.newFixedThreadPool(2, task -> new Thread(task, "upkeep"));
    private final ScheduledExecutorService heart =
            Executors.newSingleThreadScheduledExecutor(task -> new Thread(task, "run-lease"));

    RunKeeper(
            LinePartitions partitions,
            ServiceRoutes serviceRoutes,
            Runs runs,
            RunLease lease,
            Turns turns,
            RunHistory history,
            Lines lines,
            PlannedLines planned,
            ManifestPreparation preparation,
            UndoPreparation undoPreparation,
            Acknowledgements acknowledgements,
            Sender sender,
            RunGuards guards,
            PreparedManifests manifests,
            Connections connections,
            Circuits circuits,
            Traces traces) {
        this.partitions = partitions;
        this.serviceRoutes = serviceRoutes;
        this.runs = runs;
        this.lease = lease;
        this.turns = turns;
        this.history = history;
        this.lines = lines;
        this.planned = planned;
        this.preparation = preparation;
        this.undoPreparation = undoPreparation;
        this.acknowledgements = acknowledgements;
        this.sender = sender;
        this.guards = guards;
        this.manifests = manifests;
        this.connections = connections;
        this.circuits = circuits;
        this.traces = traces;
    }

    @EventListener(ApplicationReadyEvent.class)
    void begin() {
        heart.scheduleWithFixedDelay(() -> upkeep.execute(this::partitionsAhead), 1, 1, TimeUnit.MINUTES);
        heart.scheduleWithFixedDelay(() -> Lane.BEAT.run(this::beat), 0, BEAT.toMillis(), TimeUnit.MILLISECONDS);
    }

    /** Finishes the calls in flight, then lets another process have the runs at once. */
    @PreDestroy
    void end() {
        working.letGoOfAll();
        List<ExecutorService> pools = List.of(planning, sending, upkeep);
        pools.forEach(ExecutorService::shutdown);
        long until = System.nanoTime() + ENDS_WITHIN.toNanos();
        boolean ended = true;
        try {
            for (ExecutorService pool : pools) {
                ended &= pool.awaitTermination(Math.max(0, until - System.nanoTime()), TimeUnit.NANOSECONDS);
            }
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            ended = false;
        }
        // It beats until its last call has ended: a run that is let go of sooner would be another's beside it.
        heart.shutdownNow();
        if (ended) {
            lease.release(owner);
        } else {
            pools.forEach(ExecutorService::shutdownNow);
        }
    }

    Optional<Progress> progress(long runId) {
        return working.progress(runId);
    }

    /** Starts preparing a manifest and returns its number at once. */
    public long start(long routeId, RunTrigger trigger, String who) {
        BoundRoute route = serviceRoutes.toRun(routeId);
        return begin(route, trigger, Optional.empty(), who, (turn, progress) -> preparation.all(turn, route, progress));
    }

    /** Prepares and sends some records only, with their rows read again. */
    long retry(long routeId, List<String> keys, String who) {
        BoundRoute route = serviceRoutes.toRun(routeId);
        return begin(
                route,
                RunTrigger.RETRY,
                Optional.empty(),
                who,
                (turn, progress) -> preparation.some(turn, route, keys, progress));
    }

    /** Prepares the reverse of a manifest. */
    long undo(long routeId, long undone, String who) {
        BoundRoute route = serviceRoutes.toRun(routeId);
        return begin(
                route,
                RunTrigger.UNDO,
                Optional.of(undone),
                who,
                (turn, progress) -> undoPreparation.prepare(turn, route, undone, progress));
    }

    /**
     * Prepares what a run was to send from what is there now; of an undo, the reverse of the same manifest.
     *
     * @param otherwise what starts it where it is no undo
     */
    long anew(Run run, RunTrigger otherwise, String who) {
        return run.undoOf()
                .map(undone -> undo(run.routeId(), undone, who))
                .orElseGet(() -> start(run.routeId(), otherwise, who));
    }

    private interface Prepare {
        Prepared prepare(Turns.Turn turn, Progress progress);
    }

    private long begin(BoundRoute route, RunTrigger trigger, Optional<Long> undoOf, String who, Prepare how) {
        Tenure tenure = runs.start(route.routeId(), trigger, serviceRoutes.versions(route), undoOf, who, owner);
        Progress progress = new Progress();
        working.begin(tenure.runId(), progress);
        planning.execute(
                traced("prepare", tenure.runId(), route, () -> prepare(tenure, route, trigger, progress, how)));
        return tenure.runId();
    }

    private Runnable traced(String what, long runId, BoundRoute route, Runnable work) {
        LogContext ids = LogContext.ofRun(runId, route.routeId());
        return traces.around(what + " run", Map.of("run", runId, "route", route.routeId()), ids.around(work));
    }

    /** Prepares and sends one record, and waits for it. */
    public Sender.Result tryOne(
            BoundRoute route, String key, Row row, String who, java.util.function.LongConsumer started) {
        Tenure tenure = runs.start(
                route.routeId(), RunTrigger.TRIAL, serviceRoutes.versions(route), Optional.empty(), who, owner);
        long runId = tenure.runId();
        started.accept(runId);
        Progress progress = new Progress();
        working.begin(runId, progress);
        try {
            Prepared prepared = preparation.one(turns.of(tenure), route, key, row);
            manifests.close(
                    route.routeId(), tenure, prepared, lines.fieldCounts(runId), RunEnd.of(RunState.READY, ""), false);
            tenure = runs.beginSending(runId, who, owner)
                    .orElseThrow(() -> new IllegalStateException("the trial was taken by somebody else"));
            Sender.Result result = sender.send(route, runId, tenure.epoch(), FirstWave.none(), progress);
            close(tenure, result, progress);
            return result;
        } catch (RuntimeException e) {
            runs.endTrial(tenure, message(e));
            throw e;
        } finally {
            working.end(runId, progress);
        }
    }

    /**
     * Takes a waiting manifest and sends it in the background.
     *
     * @return false if it no longer waits
     */
    boolean send(long runId, BoundRoute route, String who) {
        Optional<Tenure> tenure = runs.beginSending(runId, who, owner);
        tenure.ifPresent(taken -> {
            Progress progress = new Progress();
            working.begin(runId, progress);
            sending.execute(traced("send", runId, route, () -> deliver(taken, route, progress)));
        });
        return tenure.isPresent();
    }

    /** Finishes the calls in flight and sends no more; false when nobody works on the run. */
    boolean cancel(long runId) {
        working.progress(runId).ifPresent(turn -> turn.ask(Asked.CANCEL));
        return lease.request(runId, RunLease.Request.CANCEL);
    }

    /** Finishes the calls in flight and keeps the rest. */
    void pause(long runId) {
        working.progress(runId).ifPresent(turn -> turn.ask(Asked.PAUSE));
        lease.request(runId, RunLease.Request.PAUSE);
    }

    private void prepare(Tenure tenure, BoundRoute route, RunTrigger trigger, Progress progress, Prepare how) {
        long runId = tenure.runId();
        try {
            close(tenure, route, trigger, progress, how.prepare(turns.of(tenure), progress));
        } catch (RunLost lost) {
            LOG.info("{}", lost.getMessage());
        } catch (SourceProblem e) {
            fail(tenure, Suspension.NONE, message(e));
        } catch (DestinationProblem e) {
            if (circuits.broken(route.destinationId(), e) && trigger.beginsAgain()) {
                fail(tenure, Suspension.CIRCUIT, message(e));
            } else {
                fail(tenure, Suspension.NONE, message(e));
            }
        } catch (DuplicateKeyException e) {
            LOG.warn("Run {} met what another drawing of its route wrote down: {}", runId, e.getMessage());
            crossed(tenure, trigger);
        } catch (RuntimeException e) {
            if (DatabaseTrouble.ended(e)) {
                leave(runId, e);
                return;
            }
            LOG.error("Run {} failed", runId, e);
            fail(tenure, Suspension.NONE, "Something unexpected failed; the server's log has the details");
        } finally {
            working.end(runId, progress);
        }
    }

    /** A process that lost the route, and did not know it yet, wrote down records that this one was about to: it begins again, from those that are there. */
    private void crossed(Tenure tenure, RunTrigger trigger) {
        String why = "Another process was at work on this route when this began.";
        if (trigger.beginsAgain()) {
            interrupted(tenure, why + " Nothing was sent. It is prepared again.");
        } else {
            fail(tenure, Suspension.NONE, why + " Try it again.");
        }
    }

    private void close(Tenure tenure, BoundRoute route, RunTrigger trigger, Progress progress, Prepared prepared) {
        long runId = tenure.runId();
        if (progress.isToStop()) {
            RunEnd.ofPreparation(progress.asked(), List.of(), 0).ifPresent(end -> {
                lines.drop(runId);
                runs.end(tenure, end);
            });
            return;
        }
        String counts = lines.fieldCounts(runId);
        List<String> stops = trigger.whole() ? guards.check(runId, route, prepared, counts) : List.of();
        RunEnd end = RunEnd.ofPreparation(
                        Asked.NOTHING, stops, prepared.counts().moving())
                .orElseThrow(() -> new RunLost(runId));
        if (end.state() == RunState.READY && trigger.sendsItself()) {
            manifests
                    .closeAndSend(
                            route.routeId(),
                            tenure,
                            prepared,
                            counts,
                            end,
                            trigger.whole(),
                            trigger.name().toLowerCase(Locale.ROOT))
                    .ifPresent(taken -> deliver(taken, route, progress));
        } else {
            manifests.close(route.routeId(), tenure, prepared, counts, end, trigger.whole());
        }
    }

    /** @param suspension the circuit, when it is prepared again once the destination answers */
    private void fail(Tenure tenure, Suspension suspension, String why) {
        lines.drop(tenure.runId());
        String next = suspension == Suspension.CIRCUIT ? " It is prepared again when it answers." : "";
        runs.end(tenure, new RunEnd(RunState.FAILED, suspension, why + " Nothing was sent." + next));
    }

    private void deliver(Tenure tenure, BoundRoute route, Progress progress) {
        long runId = tenure.runId();
        working.begin(runId, progress);
        try {
            acknowledgements.takeUp(route, runId, tenure.epoch());
            progress.begin(planned.unsettled(runId));
            FirstWave wave = history.firstWave(runId, route.route().spec().waves());
            close(tenure, sender.send(route, runId, tenure.epoch(), wave, progress), progress);
        } catch (RunLost lost) {
            LOG.info("{}", lost.getMessage());
        } catch (SourceProblem e) {
            runs.end(
                    tenure,
                    RunEnd.suspended(
                            Suspension.FAULT,
                            "Whether those who are left may still be sent to cannot be read from the source: "
                                    + e.getMessage()));
        } catch (RuntimeException e) {
            if (DatabaseTrouble.ended(e)) {
                leave(runId, e);
                return;
            }
            LOG.error("Sending run {} failed", runId, e);
            runs.end(
                    tenure,
                    RunEnd.suspended(
                            Suspension.FAULT, "Something unexpected failed; the server's log has the details"));
        } finally {
            working.end(runId, progress);
        }
    }

    /** Nobody beats for it any more, so that it is taken over, by this process or another, once the database can be asked again. */
    private static void leave(long runId, RuntimeException why) {
        LOG.warn("Run {} was interrupted by the database and goes on later: {}", runId, why.getMessage());
    }

    private void close(Tenure tenure, Sender.Result result, Progress progress) {
        boolean ended = RunEnd.ofSending(
                        result.suspension(), result.message(), progress.asked(), planned.unsettled(tenure.runId()))
                .filter(end -> runs.end(tenure, end))
                .isPresent();
        if (!ended) {
            LOG.info("Run {} is left to another process", tenure.runId());
        }
    }

    private void beat() {
        if (sending.isShutdown()) {
            renew();
            return;
        }
        try {
            renewLease();
            lease.requests(owner).forEach(this::heed);
            for (RunLease.Orphan orphan : lease.takeOver(owner, working.runs(), SILENCE)) {
                takeOver(orphan);
            }
            for (long destination : circuits.dueForATry()) {
                upkeep.execute(() -> tryAgain(destination));
            }
            for (long runId : runs.stranded()) {
                upkeep.execute(() -> resume(runId));
            }
            for (long runId : runs.answeredSince()) {
                upkeep.execute(() -> answeredAgain(runId));
            }
        } catch (RuntimeException e) {
            LOG.warn("The lease could not be renewed: {}", e.getMessage());
        }
    }

    private void partitionsAhead() {
        try {
            partitions.ahead();
        } catch (RuntimeException e) {
            LOG.warn("Partitions could not be made ahead: {}", e.getMessage());
        }
    }

    /** What is still ours may go on until shortly before others would take it over, counted from before it was written down. */
    private void renewLease() {
        long before = System.nanoTime();
        // What begins while the database is asked is another turn, of which this answer says nothing.
        Map<Long, Progress> turns = working.turns();
        Set<Long> ours = lease.beat(owner, turns.keySet());
        long until = before + SILENCE.minus(MARGIN).toNanos();
        turns.forEach((run, turn) -> {
            if (ours.contains(run)) {
                turn.heldUntil(until);
            } else {
                turn.ask(Asked.LET_GO);
            }
        });
    }

    private void renew() {
        try {
            renewLease();
        } catch (RuntimeException e) {
            LOG.warn("The lease could not be renewed: {}", e.getMessage());
        }
    }

    private void heed(long runId, RunLease.Request request) {
        progress(runId).ifPresent(turn -> turn.ask(request == RunLease.Request.PAUSE ? Asked.PAUSE : Asked.CANCEL));
    }

    /** A destination's wait is over: when it answers, what halted for its sake goes on. */
    private void tryAgain(long destinationId) {
        try {
            if (!connections.probe(destinationId)) {
                return;
            }
            for (long runId : runs.suspended(destinationId, Suspension.CIRCUIT)) {
                resume(runId);
            }
        } catch (RuntimeException e) {
            LOG.warn("Destination {} could not be tried: {}", destinationId, e.getMessage());
        }
    }

    private void resume(long runId) {
        try {
            send(
                    runId,
                    serviceRoutes.toRun(runs.get(runId).routeId()),
                    runs.get(runId).approvedBy());
        } catch (Problem problem) {
            LOG.warn("Run {} cannot go on: {}", runId, problem.getMessage());
        }
    }

    private void takeOver(RunLease.Orphan orphan) {
        LOG.info("Taking over run {}, which was {}", orphan.id(), orphan.state());
        if (orphan.state() == RunState.PREPARING) {
            upkeep.execute(
                    () -> interrupted(orphan.tenure(), "The server stopped while it was prepared; nothing was sent"));
            return;
        }
        Progress progress = new Progress();
        working.begin(orphan.id(), progress);
        sending.execute(() -> {
            try {
                deliver(
                        orphan.tenure(),
                        serviceRoutes.toRun(runs.get(orphan.id()).routeId()),
                        progress);
            } catch (RuntimeException e) {
                working.end(orphan.id(), progress);
                if (DatabaseTrouble.ended(e)) {
                    leave(orphan.id(), e);
                } else {
                    runs.end(orphan.tenure(), RunEnd.suspended(Suspension.FAULT, message(e)));
                }
            }
        });
    }

    private void interrupted(Tenure tenure, String why) {
        lines.drop(tenure.runId());
        RunEnd end = RunEnd.of(RunState.INTERRUPTED, why);
        if (runs.end(tenure, end)) {
            prepareAgain(runs.get(tenure.runId()));
        }
    }

    /** It was seen to wait some time ago; another run of the route may have come meanwhile. */
    private void answeredAgain(long runId) {
        if (runs.answeredSince().contains(runId)) {
            prepareAgain(runs.get(runId));
        }
    }

    /** Whoever asked for it may have gone, and a departure had nobody at the desk to begin with. */
    private void prepareAgain(Run interrupted) {
        if (!interrupted.trigger().beginsAgain()) {
            return;
        }
        if (runs.interruptedInARow(interrupted.routeId()) >= MOST_INTERRUPTED) {
            LOG.warn(
                    "Route {} was interrupted {} times in a row and is not prepared again by itself",
                    interrupted.routeId(),
                    MOST_INTERRUPTED);
            return;
        }
        try {
            anew(interrupted, interrupted.trigger(), interrupted.startedBy());
        } catch (RuntimeException e) {
            LOG.warn("Route {} could not be prepared again: {}", interrupted.routeId(), e.getMessage());
        }
    }

    private static String message(RuntimeException e) {
        return Optional.ofNullable(e.getMessage()).orElse(e.getClass().getSimpleName());
    }
}
