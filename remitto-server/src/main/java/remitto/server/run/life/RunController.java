package remitto.server.run.life;

import java.io.IOException;
import java.security.Principal;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.Executors;
import java.util.concurrent.ScheduledExecutorService;
import java.util.concurrent.ScheduledFuture;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicReference;
import org.springframework.http.MediaType;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;
import org.springframework.web.servlet.mvc.method.annotation.SseEmitter;
import remitto.core.manifest.Verdict;
import remitto.core.run.RunActions;
import remitto.core.run.RunState;
import remitto.core.run.RunTrigger;
import remitto.server.journal.Journal;
import remitto.server.manifest.LineView;
import remitto.server.manifest.LineViews;
import remitto.server.permission.CurrentUser;
import remitto.server.permission.Role;
import remitto.server.platform.Problem;
import remitto.server.run.Progress;
import remitto.server.run.RecentRuns;
import remitto.server.run.Run;
import remitto.server.run.RunComparison;
import remitto.server.run.Runs;

@RestController
@RequestMapping("/api")
class RunController {
    private static final long TELL_MILLIS = 300;
    private static final int LIST = 50;
    private static final int WINDOW = 500;

    private final CurrentUser user;
    private final Runs runs;
    private final RecentRuns recent;
    private final LineViews lines;
    private final RunKeeper keeper;
    private final RunDecisions decisions;
    private final RunComparison comparison;
    private final Journal journal;
    private final ScheduledExecutorService teller =
            Executors.newScheduledThreadPool(2, task -> new Thread(task, "run-events"));

    RunController(
            CurrentUser user,
            Runs runs,
            RecentRuns recent,
            LineViews lines,
            RunKeeper keeper,
            RunDecisions decisions,
            RunComparison comparison,
            Journal journal) {
        this.user = user;
        this.runs = runs;
        this.recent = recent;
        this.lines = lines;
        this.keeper = keeper;
        this.decisions = decisions;
        this.comparison = comparison;
        this.journal = journal;
    }

    @jakarta.annotation.PreDestroy
    void end() {
        teller.shutdownNow();
    }

    /** The run that was started. */
    record Started(long runId) {}

    /**
     * A page of runs.
     *
     * @param next pass as {@code before} for the runs that follow; absent when there are none
     */
    record RunPage(List<Run> runs, Optional<Long> next) {}

    /** @param progress absent unless this process is at work on the run */
    record RunNews(RunState state, Optional<Progress.Snapshot> progress) {}

    /** Prepares a manifest of a route in the background. Sends nothing. */
    @PostMapping("/routes/{id}/runs")
    Started prepareManifest(@PathVariable long id, Principal who) {
        long runId = keeper.start(id, RunTrigger.HAND, who.getName());
        journal.write(
                who.getName(), "prepared manifest", new Journal.Subject("manifest", runId, "manifest " + runId), "");
        return new Started(runId);
    }

    /**
     * A page of runs, the newest first.
     *
     * @param routeId of this route only; 0 for all
     * @param before number of the oldest run of the page before; 0 for the first
     */
    @GetMapping("/runs")
    RunPage runs(@RequestParam(defaultValue = "0") long routeId, @RequestParam(defaultValue = "0") long before) {
        List<Run> found = runs.list(routeId, before, LIST);
        return new RunPage(
                found,
                found.size() < LIST
                        ? Optional.empty()
                        : Optional.of(found.get(found.size() - 1).id()));
    }

    /** The latest ten runs of every route, and whether it keeps to its schedule. */
    @GetMapping("/runs/recent")
    List<RecentRuns.RunsOfRoute> recentRuns() {
        return recent.all();
    }

    /** A run with its counts. */
    @GetMapping("/runs/{id}")
    Run run(@PathVariable long id) {
        return runs.get(id);
    }

    /**
     * What may be done with the run now. Each action that fits its state is there; one that this user may not do now says why.
     */
    @GetMapping("/runs/{id}/choices")
    List<RunActions.RunChoice> choices(@PathVariable long id, Principal who) {
        return decisions.choices(
                id, new RunActions.Decider(who.getName(), user.isAtLeast(Role.EDITOR), user.isAtLeast(Role.APPROVER)));
    }

    /** Sends the lines of a manifest that are left, in the background. */
    @PostMapping("/runs/{id}/send")
    Run send(@PathVariable long id, Principal who) {
        decisions.send(id, who.getName(), false, RunDecisions.Part.ALL);
        return runs.get(id);
    }

    /** Sends a manifest that a guard stopped, whole or in part. */
    @PostMapping("/runs/{id}/approve")
    Run approve(@PathVariable long id, @RequestBody RunDecisions.Part part, Principal who) {
        decisions.send(id, who.getName(), true, part);
        return runs.get(id);
    }

    /** Discards a manifest that waits. Nothing more of it is sent. */
    @PostMapping("/runs/{id}/discard")
    Run discard(@PathVariable long id, Principal who) {
        decisions.discard(id, who.getName());
        return runs.get(id);
    }

    /** Gives a waiting manifest up and prepares another from what is there now. */
    @PostMapping("/runs/{id}/prepare-again")
    Started prepareAgain(@PathVariable long id, Principal who) {
        return new Started(decisions.prepareAgain(id, who.getName()));
    }

    /** Cancels a run in progress. Calls that are under way are finished. */
    @PostMapping("/runs/{id}/cancel")
    Run cancel(@PathVariable long id, Principal who) {
        decisions.cancel(id, who.getName());
        return runs.get(id);
    }

    /** Prepares the reverse of what was sent. */
    @PostMapping("/runs/{id}/undo")
    Started undo(@PathVariable long id, Principal who) {
        return new Started(decisions.undo(id, who.getName()));
    }

    /** A manifest beside the one sent before it. */
    @GetMapping("/runs/{id}/comparison")
    RunComparison.Comparison compareRun(@PathVariable long id) {
        return comparison.of(runs.get(id));
    }

    /**
     * A window on the lines, by offset, so that any place of a long manifest can be scrolled to.
     *
     * @param verdict of this verdict only
     * @param state of this outcome only
     * @param field that changes this field only
     * @param code of this cause only
     * @param find text in key or name
     * @param offset of the first line
     * @param limit lines at most
     */
    @GetMapping("/runs/{id}/lines")
    LineViews.Window lines(
            @PathVariable long id,
            @RequestParam(defaultValue = "") String verdict,
            @RequestParam(defaultValue = "") String state,
            @RequestParam(defaultValue = "") String field,
            @RequestParam(defaultValue = "") String code,
            @RequestParam(defaultValue = "") String find,
            @RequestParam(defaultValue = "0") int offset,
            @RequestParam(defaultValue = "100") int limit) {
        if (limit < 1 || limit > WINDOW || offset < 0) {
            throw Problem.invalid("A window holds 1 to " + WINDOW + " lines.");
        }
        LineViews.Filter filter = new LineViews.Filter(verdict, state, field, code, find);
        LineViews.Window written = lines.window(id, filter, offset, limit);
        if (!verdict.equals("UNCHANGED") && !verdict.equals("LEFT_OUT")
                || !find.isEmpty()
                || !state.isEmpty()
                || !code.isEmpty()) {
            return written;
        }
        return with(written, id, Verdict.valueOf(verdict), offset, limit);
    }

    /** Lines that are written down come first, then the records that have none since nothing of theirs changed. */
    private LineViews.Window with(LineViews.Window written, long id, Verdict verdict, int offset, int limit) {
        int from = (int) Math.max(0, offset - written.total());
        int wanted = limit - written.lines().size();
        var ordinals = verdict == Verdict.UNCHANGED ? runs.unchanged(id) : runs.leftOut(id);
        LineViews.Window quiet = lines.quiet(runs.get(id).routeId(), verdict, ordinals, from, wanted);
        List<LineView> all = new ArrayList<>(written.lines());
        all.addAll(quiet.lines());
        return new LineViews.Window(written.total() + quiet.total(), all);
    }

    /** Server-sent events with the state and progress of a run, until it ends. */
    @GetMapping(path = "/runs/{id}/events", produces = MediaType.TEXT_EVENT_STREAM_VALUE)
    SseEmitter events(@PathVariable long id) {
        SseEmitter emitter = new SseEmitter(0L);
        AtomicReference<ScheduledFuture<?>> telling = new AtomicReference<>();
        Runnable stop = () -> Optional.ofNullable(telling.get()).ifPresent(one -> one.cancel(false));
        emitter.onCompletion(stop);
        emitter.onError(error -> stop.run());
        telling.set(
                teller.scheduleWithFixedDelay(() -> tell(id, emitter, stop), 0, TELL_MILLIS, TimeUnit.MILLISECONDS));
        return emitter;
    }

    private void tell(long id, SseEmitter emitter, Runnable stop) {
        try {
            RunState state = runs.state(id);
            emitter.send(new RunNews(state, keeper.progress(id).map(Progress::snapshot)), MediaType.APPLICATION_JSON);
            if (state != RunState.PREPARING && state != RunState.SENDING) {
                emitter.complete();
                stop.run();
            }
        } catch (IOException | IllegalStateException e) {
            stop.run();
        } catch (RuntimeException e) {
            emitter.completeWithError(e);
            stop.run();
        }
    }
}
