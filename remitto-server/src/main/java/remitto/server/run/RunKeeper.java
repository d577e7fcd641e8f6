package remitto.server.run;

import jakarta.annotation.PreDestroy;
import java.time.Duration;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.UUID;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.ScheduledExecutorService;
import java.util.concurrent.TimeUnit;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.boot.context.event.ApplicationReadyEvent;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Component;
import remitto.connect.destination.DestinationProblem;
import remitto.connect.warehouse.WarehouseProblem;
import remitto.core.dataset.Row;
import remitto.core.delivery.LineState;
import remitto.server.dataset.Datasets;
import remitto.server.held.HeldRecords;
import remitto.server.journal.Journal;
import remitto.server.platform.Problem;
import remitto.server.route.BoundRoute;
import remitto.server.route.RouteBinder;
import remitto.server.route.Routes;

/**
 * Starts runs, keeps hold of those this process owns, and takes over those whose owner fell silent: a manifest that
 * was being drawn up is closed, one that was being sent is finished.
 */
@Component
public class RunKeeper {
    private static final Logger LOG = LoggerFactory.getLogger(RunKeeper.class);
    private static final int AT_ONCE = 4;
    private static final int LARGE = 2_000;
    private static final Duration BEAT = Duration.ofSeconds(2);
    private static final Duration SILENCE = Duration.ofSeconds(10);
    private static final Duration STALE = Duration.ofHours(24);

    private final Routes routes;
    private final RouteBinder binder;
    private final Datasets datasets;
    private final Runs runs;
    private final Lines lines;
    private final DrawUp drawUp;
    private final Sender sender;
    private final HeldRecords held;
    private final Journal journal;
    private final java.time.Clock clock;
    private final String owner = UUID.randomUUID().toString();
    private final Map<Long, Progress> working = new ConcurrentHashMap<>();
    private final ExecutorService pool = Executors.newFixedThreadPool(AT_ONCE, task -> new Thread(task, "run"));
    private final ScheduledExecutorService heart =
            Executors.newSingleThreadScheduledExecutor(task -> new Thread(task, "run-lease"));

    RunKeeper(
            Routes routes,
            RouteBinder binder,
            Datasets datasets,
            Runs runs,
            Lines lines,
            DrawUp drawUp,
            Sender sender,
            HeldRecords held,
            Journal journal,
            java.time.Clock clock) {
        this.routes = routes;
        this.binder = binder;
        this.datasets = datasets;
        this.runs = runs;
        this.lines = lines;
        this.drawUp = drawUp;
        this.sender = sender;
        this.held = held;
        this.journal = journal;
        this.clock = clock;
    }

    @EventListener(ApplicationReadyEvent.class)
    void begin() {
        heart.scheduleWithFixedDelay(this::beat, 0, BEAT.toMillis(), TimeUnit.MILLISECONDS);
    }

    @PreDestroy
    void end() {
        working.values().forEach(Progress::cancel);
        pool.shutdown();
        heart.shutdownNow();
        try {
            if (!pool.awaitTermination(20, TimeUnit.SECONDS)) {
                pool.shutdownNow();
            }
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }

    Optional<Progress> progress(long runId) {
        return Optional.ofNullable(working.get(runId));
    }

    /** Starts drawing up a manifest and returns its number at once. */
    public long start(long routeId, RunTrigger trigger, String who) {
        BoundRoute route = inService(routeId);
        Runs.Pins pins = pins(route);
        long runId = runs.start(routeId, trigger, pins, who, owner);
        Progress progress = new Progress();
        working.put(runId, progress);
        pool.execute(() -> draw(runId, route, trigger, progress));
        return runId;
    }

    /** Draws up and sends one record, and waits for it. */
    Sender.Result tryOne(BoundRoute route, String key, Row row, String who, java.util.function.LongConsumer started) {
        long runId = runs.start(route.routeId(), RunTrigger.TRIAL, pins(route), who, owner);
        started.accept(runId);
        Progress progress = new Progress();
        working.put(runId, progress);
        try {
            DrawUp.Drawn drawn = drawUp.one(runId, route, key, row);
            keep(runId, route, drawn, RunState.DRAWN, "", false);
            if (!runs.beginSending(runId, who, owner)) {
                throw new IllegalStateException("the trial was taken by somebody else");
            }
            Sender.Result result = sender.send(route, runId, runs.epoch(runId), progress);
            close(runId, result, progress);
            return result;
        } catch (RuntimeException e) {
            runs.finish(runId, RunState.FAILED, message(e));
            throw e;
        } finally {
            working.remove(runId);
        }
    }

    /** A timetable's departure: skipped while a manifest of the route waits for a person. */
    public void depart(long routeId) {
        BoundRoute route;
        try {
            route = inService(routeId);
        } catch (Problem problem) {
            LOG.warn("Route {} cannot depart: {}", routeId, problem.getMessage());
            return;
        }
        List<Long> waiting = runs.waiting(routeId);
        if (!waiting.isEmpty()) {
            runs.skip(routeId, pins(route), "Manifest " + waiting.get(0) + " waits", owner);
            return;
        }
        try {
            start(routeId, RunTrigger.TIMETABLE, "timetable");
        } catch (Problem problem) {
            runs.skip(routeId, pins(route), message(problem), owner);
        }
    }

    /** Sends a manifest that waits. */
    void send(long runId, String who, boolean mayApprove) {
        Run run = runs.get(runId);
        if (!run.state().waits()) {
            throw Problem.conflict("This manifest does not wait to be sent; it is "
                    + run.state().name().toLowerCase(java.util.Locale.ROOT) + ".");
        }
        checkApproval(run, who, mayApprove);
        BoundRoute route = inService(run.routeId());
        checkFresh(run, route);
        if (!runs.beginSending(runId, who, owner)) {
            throw Problem.conflict("Somebody else has just sent or discarded this manifest.");
        }
        journal.write(who, "sent manifest", new Journal.Subject("manifest", runId, run.route()), sums(run));
        Progress progress = new Progress();
        working.put(runId, progress);
        pool.execute(() -> deliver(runId, route, progress));
    }

    private void checkApproval(Run run, String who, boolean mayApprove) {
        if (run.state() != RunState.STOPPED) {
            return;
        }
        if (!mayApprove) {
            throw Problem.conflict("A guard stopped this manifest; an approver decides about it.");
        }
        if (routes.get(run.routeId()).author().equals(who)) {
            throw Problem.conflict("You edited this route last, so somebody else approves its stopped manifest.");
        }
    }

    private void checkFresh(Run run, BoundRoute route) {
        Runs.Pins now = pins(route);
        if (now.routeVersion() != run.routeVersion()
                || now.datasetVersion() != run.datasetVersion()
                || now.profileVersion() != run.profileVersion()) {
            throw Problem.conflict("Another version is in service since this manifest was drawn up; draw it up again.");
        }
        if (run.drawnAt()
                .filter(at -> at.isBefore(clock.instant().minus(STALE)))
                .isPresent()) {
            throw Problem.conflict("This manifest is more than a day old; draw it up again.");
        }
    }

    void discard(long runId, String who) {
        Run run = runs.get(runId);
        if (!run.state().waits()) {
            throw Problem.conflict("Only a manifest that waits can be discarded.");
        }
        lines.cancelPlanned(runId);
        runs.finish(runId, RunState.DISCARDED, "Discarded by " + who);
        journal.write(who, "discarded manifest", new Journal.Subject("manifest", runId, run.route()), sums(run));
    }

    /** Finishes the calls in flight and sends no more. */
    void cancel(long runId, String who) {
        Run run = runs.get(runId);
        Progress progress = working.get(runId);
        if (progress == null) {
            throw Problem.conflict("This run is not under way.");
        }
        progress.cancel();
        journal.write(who, "cancelled run", new Journal.Subject("manifest", runId, run.route()), "");
    }

    private BoundRoute inService(long routeId) {
        Routes.Route route = routes.get(routeId);
        int version = route.liveVersion()
                .orElseThrow(() ->
                        Problem.conflict("No version of this route is in service yet; put one in service first."));
        Datasets.Dataset dataset = datasets.get(route.datasetId());
        int datasetVersion = dataset.liveVersion()
                .orElseThrow(() -> Problem.conflict(
                        "No version of dataset " + dataset.name() + " is in service yet; put one in service first."));
        return binder.require(binder.bind(
                routeId,
                route.name(),
                new RouteBinder.Ends(route.datasetId(), route.destinationId(), route.object()),
                datasetVersion,
                routes.version(routeId, version)));
    }

    private Runs.Pins pins(BoundRoute route) {
        Routes.Route stored = routes.get(route.routeId());
        return new Runs.Pins(
                stored.liveVersion().orElse(stored.latestVersion()),
                binder.usableDatasetVersion(stored.datasetId()),
                route.connection().profileVersion(),
                route.described().fingerprint());
    }

    private void draw(long runId, BoundRoute route, RunTrigger trigger, Progress progress) {
        try {
            DrawUp.Drawn drawn = drawUp.all(runId, route, progress);
            if (progress.isCancelled()) {
                lines.drop(runId);
                runs.finish(runId, RunState.CANCELLED, "Cancelled while it was drawn up; nothing was sent");
                return;
            }
            List<String> stops = route.route().spec().guards().check(drawn.sums(), drawn.knownBefore());
            boolean nothing =
                    drawn.sums().added() + drawn.sums().changed() + drawn.sums().removed() == 0;
            RunState state = !stops.isEmpty() ? RunState.STOPPED : RunState.DRAWN;
            keep(runId, route, drawn, state, String.join(" ", stops), true);
            if (state == RunState.DRAWN && nothing) {
                runs.finish(runId, RunState.SENT, "Nothing to send");
            } else if (state == RunState.DRAWN
                    && trigger == RunTrigger.TIMETABLE
                    && runs.beginSending(runId, "timetable", owner)) {
                deliver(runId, route, progress);
            }
        } catch (WarehouseProblem | DestinationProblem e) {
            fail(runId, message(e));
        } catch (RuntimeException e) {
            LOG.error("Run {} failed", runId, e);
            fail(runId, "This is our fault; the server's log says what happened");
        } finally {
            working.remove(runId);
        }
    }

    private void fail(long runId, String why) {
        lines.drop(runId);
        runs.finish(runId, RunState.FAILED, why + " Nothing was sent.");
    }

    private void keep(long runId, BoundRoute route, DrawUp.Drawn drawn, RunState state, String message, boolean whole) {
        runs.drawn(
                runId,
                state,
                drawn.sums(),
                drawn.knownBefore(),
                drawn.missing(),
                drawn.unchanged(),
                lines.fieldCounts(runId),
                message);
        if (drawn.sums().added() + drawn.sums().changed() > LARGE) {
            lines.settled(runId);
        }
        held.drawn(route.routeId(), runId, whole);
    }

    private void deliver(long runId, BoundRoute route, Progress progress) {
        working.put(runId, progress);
        try {
            progress.begin(lines.count(runId, LineState.PLANNED));
            close(runId, sender.send(route, runId, runs.epoch(runId), progress), progress);
        } catch (RuntimeException e) {
            LOG.error("Sending run {} failed", runId, e);
            runs.finish(runId, RunState.HALTED, "This is our fault; the server's log says what happened");
        } finally {
            working.remove(runId);
        }
    }

    private void close(long runId, Sender.Result result, Progress progress) {
        if (!result.stopped().isEmpty()) {
            runs.finish(runId, RunState.HALTED, result.stopped());
        } else if (progress.isCancelled() && !pool.isShutdown()) {
            lines.cancelPlanned(runId);
            runs.finish(runId, RunState.CANCELLED, "Cancelled; the calls in flight were finished");
        } else if (!progress.isCancelled()) {
            runs.finish(runId, RunState.SENT, "");
        }
    }

    private void beat() {
        try {
            runs.beat(owner, working.keySet());
            for (Runs.Orphan orphan : runs.takeOver(owner, SILENCE)) {
                takeOver(orphan);
            }
        } catch (RuntimeException e) {
            LOG.warn("The lease could not be renewed: {}", e.getMessage());
        }
    }

    private void takeOver(Runs.Orphan orphan) {
        LOG.info("Taking over run {}, which was {}", orphan.id(), orphan.state());
        if (orphan.state() == RunState.DRAWING) {
            lines.drop(orphan.id());
            runs.finish(
                    orphan.id(), RunState.INTERRUPTED, "The server stopped while it was drawn up; nothing was sent");
            return;
        }
        Progress progress = new Progress();
        working.put(orphan.id(), progress);
        pool.execute(() -> {
            try {
                deliver(orphan.id(), inService(runs.get(orphan.id()).routeId()), progress);
            } catch (RuntimeException e) {
                runs.finish(orphan.id(), RunState.HALTED, message(e));
                working.remove(orphan.id());
            }
        });
    }

    private static String sums(Run run) {
        return "+" + run.sums().added() + " ~" + run.sums().changed() + " held "
                + run.sums().held();
    }

    private static String message(RuntimeException e) {
        return Optional.ofNullable(e.getMessage()).orElse(e.getClass().getSimpleName());
    }
}
