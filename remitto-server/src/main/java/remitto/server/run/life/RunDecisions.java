package remitto.server.run.life;

import java.time.Clock;
import java.time.Duration;
import java.util.Collection;
import java.util.List;
import java.util.Optional;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Component;
import remitto.core.run.RunAction;
import remitto.core.run.RunActions;
import remitto.core.run.RunMoves;
import remitto.core.run.RunState;
import remitto.core.run.RunTrigger;
import remitto.server.delivery.AbandonedCalls;
import remitto.server.destination.Circuits;
import remitto.server.journal.Journal;
import remitto.server.manifest.PlannedLines;
import remitto.server.permission.ActorNames;
import remitto.server.platform.Problem;
import remitto.server.route.BoundRoute;
import remitto.server.route.Routes;
import remitto.server.run.Run;
import remitto.server.run.Runs;
import remitto.server.run.ServiceRoutes;

/** What people, and the timetable, decide about manifests. */
@Component
public class RunDecisions {
    private static final Logger LOG = LoggerFactory.getLogger(RunDecisions.class);
    private static final Duration STALE = Duration.ofHours(24);

    private final Contributors contributors;
    private final RunSituations situations;
    private final ActorNames names;
    private final Routes routes;
    private final ServiceRoutes serviceRoutes;
    private final Runs runs;
    private final PlannedLines lines;
    private final AbandonedCalls abandoned;
    private final RunKeeper keeper;
    private final Circuits circuits;
    private final Journal journal;
    private final Clock clock;

    RunDecisions(
            Contributors contributors,
            RunSituations situations,
            ActorNames names,
            Routes routes,
            ServiceRoutes serviceRoutes,
            Runs runs,
            PlannedLines lines,
            AbandonedCalls abandoned,
            RunKeeper keeper,
            Circuits circuits,
            Journal journal,
            Clock clock) {
        this.contributors = contributors;
        this.situations = situations;
        this.names = names;
        this.routes = routes;
        this.serviceRoutes = serviceRoutes;
        this.runs = runs;
        this.lines = lines;
        this.abandoned = abandoned;
        this.keeper = keeper;
        this.circuits = circuits;
        this.journal = journal;
        this.clock = clock;
    }

    /**
     * Which part of a manifest goes.
     *
     * @param verdicts that go; none means all
     * @param without lines that stay behind
     */
    public record Part(List<String> verdicts, List<Integer> without) {
        static final Part ALL = new Part(List.of(), List.of());

        public Part {
            verdicts = List.copyOf(verdicts);
            without = List.copyOf(without);
        }

        boolean isAll() {
            return verdicts.isEmpty() && without.isEmpty();
        }
    }

    /** A timetable's departure: skipped, and saying so, while something of the route waits. */
    public void depart(long routeId) {
        BoundRoute route;
        try {
            route = serviceRoutes.toRun(routeId);
        } catch (RuntimeException problem) {
            LOG.warn("Route {} cannot depart: {}", routeId, problem.getMessage());
            runs.skip(routeId, versionsOfUnbound(routeId), "It could not depart: " + problem.getMessage());
            return;
        }
        Optional<String> why = whyNot(route);
        if (why.isPresent()) {
            runs.skip(routeId, serviceRoutes.versions(route), why.get());
            return;
        }
        try {
            keeper.start(routeId, RunTrigger.TIMETABLE, "timetable");
        } catch (Problem problem) {
            runs.skip(routeId, serviceRoutes.versions(route), String.valueOf(problem.getMessage()));
        }
    }

    /** A destination that cannot be opened has no profile version to tell. */
    private Runs.VersionSnapshot versionsOfUnbound(long routeId) {
        try {
            return serviceRoutes.versionsUnbound(routeId);
        } catch (RuntimeException e) {
            LOG.debug("Route {} cannot be bound", routeId, e);
            Routes.Route route = routes.get(routeId);
            return new Runs.VersionSnapshot(route.liveVersion().orElse(route.latestVersion()), 0, 0, 0);
        }
    }

    /** True when a run of any of the routes is under way. */
    public boolean anyUnderWay(Collection<Long> routeIds) {
        return runs.anyUnderWay(routeIds);
    }

    /** True while a run of the route is under way or waits for somebody, or its destination does not answer. */
    public boolean isHeldBack(long routeId, long destinationId) {
        return runs.anyUnderWay(List.of(routeId))
                || !runs.waiting(routeId).isEmpty()
                || circuits.of(destinationId).isOpen();
    }

    private Optional<String> whyNot(BoundRoute route) {
        List<Long> waiting = runs.waiting(route.routeId());
        if (!waiting.isEmpty()) {
            return Optional.of("Manifest " + waiting.get(0) + " waits");
        }
        var circuit = circuits.of(route.destinationId());
        return circuit.isOpen()
                ? Optional.of(route.connection().profile().title() + " does not answer: " + circuit.reason())
                : Optional.empty();
    }

    /** Sends a manifest that waits, or the rest of one that halted. */
    void send(long runId, String who, boolean mayApprove, Part part) {
        Run run = runs.get(runId);
        boolean approves = mayApprove && run.state() == RunState.AWAITING_APPROVAL;
        check(approves ? RunAction.APPROVE : RunAction.SEND, run, new RunActions.Decider(who, true, mayApprove));
        BoundRoute route = serviceRoutes.toRun(run.routeId());
        checkFresh(run, route);
        if (!part.isAll()) {
            List<String> verdicts =
                    part.verdicts().isEmpty() ? List.of("ADDED", "CHANGED", "REMOVED") : part.verdicts();
            long kept = lines.keepBack(runId, verdicts, part.without(), "Not approved by " + names.of(who));
            journal.write(who, "kept lines back", subject(run), kept + " lines are not sent");
        }
        if (!keeper.send(runId, route, who)) {
            throw Problem.conflict("Someone else has just sent or discarded this manifest.");
        }
        if (approves) {
            contributors.approved(runId, who);
        }
        journal.write(who, "sent manifest", subject(run), counts(run));
    }

    /** What may be done with a run now, and what may not be done by this person, with the reason. */
    List<RunActions.RunChoice> choices(long runId, RunActions.Decider decider) {
        return RunActions.of(situations.of(runs.get(runId)), decider);
    }

    private Run decided(RunAction action, long runId, String who) {
        Run run = runs.get(runId);
        check(action, run, new RunActions.Decider(who, true, false));
        return run;
    }

    private void check(RunAction action, Run run, RunActions.Decider decider) {
        RunActions.against(action, situations.of(run), decider).ifPresent(why -> {
            throw Problem.conflict(why);
        });
    }

    private void checkFresh(Run run, BoundRoute route) {
        Runs.VersionSnapshot now = serviceRoutes.versions(route);
        if (now.routeVersion() != run.routeVersion()
                || now.datasetVersion() != run.datasetVersion()
                || now.profileVersion() != run.profileVersion()) {
            throw Problem.conflict("Another version is in service since this manifest was prepared; prepare it again.");
        }
        if (now.objectFingerprint() != runs.objectFingerprint(run.id())) {
            throw Problem.conflict(
                    "The destination's fields changed since this manifest was prepared; prepare it again.");
        }
        if (run.preparedAt()
                .filter(at -> at.isBefore(clock.instant().minus(STALE)))
                .isPresent()) {
            throw Problem.conflict("This manifest is more than a day old; prepare it again.");
        }
    }

    /** Draws a waiting manifest up again: what is left of the old one is not sent. */
    long prepareAgain(long runId, String who) {
        Run run = decided(RunAction.PREPARE_AGAIN, runId, who);
        discard(run, "Prepared again by " + names.of(who));
        long next = keeper.anew(run, RunTrigger.HAND, who);
        journal.write(who, "prepared manifest again", subject(run), "as manifest " + next);
        return next;
    }

    void discard(long runId, String who) {
        Run run = decided(RunAction.DISCARD, runId, who);
        discard(run, "Discarded by " + names.of(who));
        journal.write(who, "discarded manifest", subject(run), counts(run));
    }

    private void discard(Run run, String why) {
        if (!runs.giveUp(run.id(), RunMoves.givenUp(run.state()), why)) {
            throw Problem.conflict("Someone else has just sent or discarded this manifest.");
        }
        abandoned.settle(run);
    }

    /** Finishes the calls in flight and sends no more. */
    void cancel(long runId, String who) {
        Run run = decided(RunAction.CANCEL, runId, who);
        if (!keeper.cancel(runId)) {
            throw Problem.conflict("This run is not under way.");
        }
        journal.write(who, "cancelled run", subject(run), "");
    }

    /** Prepares the reverse of a manifest of which something was sent; it waits to be read and sent. */
    long undo(long runId, String who) {
        Run run = decided(RunAction.UNDO, runId, who);
        long undo = keeper.undo(run.routeId(), runId, who);
        journal.write(who, "prepared undo", subject(run), "as manifest " + undo);
        return undo;
    }

    /** Tries held records again, with their values read again. */
    long retry(long routeId, List<String> keys, String who) {
        long run = keeper.retry(routeId, keys, who);
        journal.write(
                who,
                "retried held records",
                new Journal.Subject("route", routeId, routes.get(routeId).name()),
                keys.size() + " records, as manifest " + run);
        return run;
    }

    /** Stops the route's run after the calls in flight, keeping what is left. */
    public void paused(long routeId) {
        runs.underWay(routeId).ifPresent(keeper::pause);
    }

    /** What a pause kept is prepared again; it goes by itself where the timetable had sent it. */
    public void resumed(long routeId, String who) {
        Optional<Run> kept = runs.pausedRun(routeId).map(runs::get);
        if (kept.isPresent()) {
            discard(kept.get(), "Prepared again after the pause");
            RunTrigger trigger = kept.get().trigger() == RunTrigger.TIMETABLE ? RunTrigger.TIMETABLE : RunTrigger.HAND;
            keeper.anew(kept.get(), trigger, who);
        }
    }

    private static Journal.Subject subject(Run run) {
        return new Journal.Subject("manifest", run.id(), run.route());
    }

    private static String counts(Run run) {
        return "+" + run.counts().added() + " ~" + run.counts().changed() + " −"
                + run.counts().removed() + " held " + run.counts().held();
    }
}
