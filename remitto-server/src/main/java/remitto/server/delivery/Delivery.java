package remitto.server.delivery;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.Semaphore;
import java.util.concurrent.ThreadLocalRandom;
import java.util.function.Supplier;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import remitto.connect.destination.Contents;
import remitto.connect.destination.Destination;
import remitto.connect.destination.Destination.CallOutcome;
import remitto.connect.destination.Destination.Outgoing;
import remitto.connect.destination.Destination.RecordResult;
import remitto.connect.destination.Writing;
import remitto.connect.profile.Profile;
import remitto.core.delivery.AfterCall;
import remitto.core.delivery.Backoff;
import remitto.core.delivery.CallEnd;
import remitto.core.manifest.Verdict;
import remitto.core.value.Value;
import remitto.server.destination.Circuits;
import remitto.server.manifest.Line;
import remitto.server.route.BoundRoute;
import remitto.server.run.FirstWave;
import remitto.server.run.Stop;

/** Brings batches of lines of one verdict to their outcome, whatever it takes; leaves none in doubt unless stopped. */
final class Delivery {
    private static final Logger LOG = LoggerFactory.getLogger(Delivery.class);
    /** Live values may be at most this old when a write relies on them. */
    private static final Duration FRESH = Duration.ofSeconds(60);

    private static final Runnable NOTHING = () -> {};

    private final Tools tools;
    private final Task task;
    private final Profile profile;
    private final FirstWave wave;
    private final Stop stop;
    private final Backoff backoff = Backoff.defaults();
    /** The call at hand may have taken effect already, under its key. */
    private boolean inDoubt;
    /** How often in a row the destination asked to wait. */
    private int waits;

    Delivery(Tools tools, Task task, FirstWave wave, Stop stop) {
        this.tools = tools;
        this.task = task;
        this.profile = task.route().connection().profile();
        this.wave = wave;
        this.stop = stop;
    }

    record Tools(OpenCalls calls, Outcomes outcomes, ReadBack readBack, Circuits circuits, Clock clock) {}

    /** @param slots one for each call that the destination takes at a time */
    record Task(
            BoundRoute route,
            long runId,
            int epoch,
            Verdict verdict,
            CallNumbers numbers,
            PreSendCheck.Look look,
            AcknowledgementQueue queue,
            Semaphore slots) {}

    /** How long after a call was made what it did can be seen for certain, or it can no longer land. */
    static Duration settlesAfter(Profile profile) {
        return Duration.ofSeconds(profile.limits().longestCallSeconds()
                + profile.showsWritesAfterSeconds().orElse(0));
    }

    /** Waits for a slot first. Makes no call when sending was stopped meanwhile. */
    void deliver(List<Line> wanted) {
        inSlot(() -> {
            List<Line> batch = stop.goesOn() ? onFirmGround(task.look().mayGo(wanted, wave)) : List.of();
            return batch.isEmpty() ? NOTHING : inNewCall(batch);
        });
    }

    /** @param making gives what is left to do when the slot may go to the next call */
    private void inSlot(Supplier<Runnable> making) {
        Runnable left;
        task.slots().acquireUninterruptibly();
        try {
            left = making.get();
        } finally {
            task.slots().release();
        }
        left.run();
    }

    private Runnable inNewCall(List<Line> batch) {
        int call = task.numbers().next();
        tools.calls().open(task.runId(), task.epoch(), call, task.verdict(), batch);
        inDoubt = false;
        return tries(batch, call);
    }

    /** Takes up a call whose outcome was not written down. */
    void recover(List<Line> batch, int call) {
        switch (profile.confirm()) {
            case KEY -> {
                tools.calls().open(task.runId(), task.epoch(), call, task.verdict(), batch);
                inDoubt = true;
                tries(batch, call).run();
            }
            case READBACK -> {
                Settlement found = tools.readBack().settle(task.route(), task.runId(), batch);
                found.planned.addAll(found.again);
                found.again.clear();
                settle(call, found);
            }
            case NONE -> giveUpKnowing(batch, call, "The server stopped while the call was under way");
        }
    }

    private Runnable tries(List<Line> wanted, int call) {
        List<Line> batch = wanted;
        int attempt = 0;
        while (true) {
            attempt++;
            long started = System.nanoTime();
            CallOutcome outcome = call(batch, call);
            if (outcome instanceof CallOutcome.Answered answered) {
                waits = 0;
                stop.exchanged(answered.exchange());
                tools.circuits().answered(task.route().destinationId());
                List<Line> sent = batch;
                return () -> answered(call, read(sent, answered.results()));
            }
            if (outcome instanceof CallOutcome.NotSent && !stop.isHeld()) {
                attempt--;
                stop.awaitHold();
                if (!stop.goesOn()) {
                    giveBack(batch, call);
                    return NOTHING;
                }
                continue;
            }
            CallEnd end = end(outcome);
            boolean open = tell(end);
            if (end instanceof CallEnd.Unheard unheard) {
                if (!canBeFoundOut(Duration.ofNanos(System.nanoTime() - started))) {
                    return NOTHING;
                }
                batch = findOut(batch, call, unheard.reason());
                if (batch.isEmpty()) {
                    return NOTHING;
                }
            }
            attempt -= end instanceof CallEnd.AskedToWait ? 1 : 0;
            if (end.isAgainstTheTool()) {
                LOG.info("Run {}: call {} not taken (try {}): {}", task.runId(), call, attempt, end.why());
            }
            AfterCall next = AfterCall.of(
                    end,
                    new AfterCall.At(attempt, waits, batch.size(), open),
                    new AfterCall.Words(profile.title(), "a call"),
                    backoff,
                    ThreadLocalRandom.current().nextDouble());
            Optional<Runnable> ended = follow(next, batch, call);
            if (ended.isPresent()) {
                return ended.get();
            }
        }
    }

    /** @return what is left to do when the slot may go to the next call; empty when the same call is made again */
    private Optional<Runnable> follow(AfterCall next, List<Line> batch, int call) {
        if (next instanceof AfterCall.Later later && stop.goesOn() && !inDoubt) {
            return Optional.of(later(batch, call, later.length()));
        }
        if (next instanceof AfterCall.RefusedAlone alone) {
            Settlement refused = new Settlement();
            refused.refused(batch.get(0), alone.reason());
            settle(call, refused);
            return Optional.of(NOTHING);
        }
        if (next instanceof AfterCall.Split) {
            // The whole was refused, so nothing of it is in doubt.
            inDoubt = false;
            giveBack(batch, call);
            return Optional.of(() -> halves(batch));
        }
        if (next instanceof AfterCall.Stop suspension) {
            stop.suspension(suspension.suspension(), suspension.message());
        } else if (next instanceof AfterCall.Later later) {
            stop.pause(later.length());
        } else if (next instanceof AfterCall.Again again) {
            stop.pause(again.pause());
        }
        if (!stop.goesOn()) {
            giveBack(batch, call);
            return Optional.of(NOTHING);
        }
        return Optional.empty();
    }

    private CallEnd end(CallOutcome outcome) {
        CallEnd end = CallEnds.of(outcome);
        waits += end instanceof CallEnd.AskedToWait ? 1 : 0;
        if (outcome instanceof CallOutcome.Failed failed) {
            stop.exchanged(failed.exchange());
        }
        return end;
    }

    /** @return whether the tool is known not to answer by now */
    private boolean tell(CallEnd end) {
        if (end.isAgainstTheTool()) {
            return tools.circuits().failed(task.route().destinationId(), end.why());
        }
        if (end instanceof CallEnd.Refused) {
            tools.circuits().answered(task.route().destinationId());
        }
        return false;
    }

    /** Whoever waits for a destination holds none of its slots; nothing of the call took effect. */
    private Runnable later(List<Line> batch, int call, Duration wait) {
        giveBack(batch, call);
        return () -> {
            stop.pause(wait);
            if (stop.goesOn()) {
                inSlot(() -> inNewCall(batch));
            }
        };
    }

    /** Waits until reading tells what became of a call; false when nobody waits for that here, and the call stays open. */
    private boolean canBeFoundOut(Duration since) {
        return profile.confirm() != Profile.Confirm.READBACK
                || stop.waitOut(settlesAfter(profile).minus(since));
    }

    /** What became of a call that got no answer to believe; the lines that go again. */
    private List<Line> findOut(List<Line> batch, int call, String why) {
        return switch (profile.confirm()) {
            case KEY -> {
                inDoubt = true;
                yield batch;
            }
            case READBACK -> {
                Settlement found = tools.readBack().settle(task.route(), task.runId(), batch);
                settle(call, found);
                yield found.again;
            }
            case NONE -> {
                giveUpKnowing(batch, call, why);
                yield List.of();
            }
        };
    }

    private void giveUpKnowing(List<Line> batch, int call, String why) {
        Settlement settlement = new Settlement();
        batch.forEach(line -> settlement.unknown(
                line, "Outcome unknown: no answer came back: " + why + ". " + profile.title() + " cannot be asked."));
        settle(call, settlement);
    }

    private CallOutcome call(List<Line> batch, int call) {
        String keyField = task.route().route().spec().match().get(0);
        boolean removes = task.verdict() == Verdict.REMOVED;
        List<Outgoing> outgoing = batch.stream()
                .map(line -> {
                    Contents contents = removes ? Contents.of(Map.of()) : line.contents();
                    return new Outgoing(
                            line.remoteId(), contents.value(keyField).orElse(Value.EMPTY), contents);
                })
                .toList();
        var sent = new Destination.Batch(
                task.route().described().description(), keyField, outgoing, task.runId() + "-" + call, stop::isHeld);
        Writing destination = task.route().connection().writing();
        return switch (task.verdict()) {
            case ADDED -> destination.add(sent);
            case REMOVED -> destination.remove(sent);
            default -> destination.update(sent);
        };
    }

    private List<Line> onFirmGround(List<Line> wanted) {
        if (task.verdict() == Verdict.ADDED || !task.route().reads()) {
            return wanted;
        }
        Instant limit = tools.clock().instant().minus(FRESH);
        List<Line> stale = wanted.stream()
                .filter(line ->
                        line.thereReadAt().filter(at -> !at.isBefore(limit)).isEmpty())
                .toList();
        if (stale.isEmpty()) {
            return wanted;
        }
        Settlement checked = tools.readBack().checkGround(task.route(), task.runId(), stale);
        tools.outcomes().settle(task.route(), new Outcomes.Maker(task.runId(), task.epoch(), 0), withoutAgain(checked));
        wave.settled(checked.movedOn.size(), 0);
        List<Line> good = new ArrayList<>(wanted);
        good.removeAll(stale);
        good.addAll(checked.again);
        return good;
    }

    private static Settlement withoutAgain(Settlement checked) {
        Settlement only = new Settlement();
        only.movedOn.addAll(checked.movedOn);
        return only;
    }

    private Settlement read(List<Line> batch, List<RecordResult> results) {
        Settlement settlement = new Settlement();
        for (int i = 0; i < batch.size(); i++) {
            Line line = batch.get(i);
            RecordResult result = results.get(i);
            if (result.accepted()) {
                String id = result.id().isEmpty() ? line.remoteId() : result.id();
                settlement.acknowledged(line, id, result.outcome());
            } else if (result.movedOn() && task.verdict() == Verdict.REMOVED) {
                settlement.acknowledged(line, line.remoteId(), "was gone already");
            } else if (result.movedOn()) {
                settlement.movedOn(line, result.reason());
            } else {
                settlement.refused(line, result.reason());
            }
        }
        return settlement;
    }

    private void answered(int call, Settlement settlement) {
        int later = tools.outcomes()
                .answered(task.route(), new Outcomes.Maker(task.runId(), task.epoch(), call), settlement);
        if (later > 0) {
            task.queue().add(new OpenCalls.AnsweredCall(call, later));
        }
        counted(settlement);
    }

    private void settle(int call, Settlement settlement) {
        tools.outcomes().settle(task.route(), new Outcomes.Maker(task.runId(), task.epoch(), call), settlement);
        counted(settlement);
    }

    private void counted(Settlement settlement) {
        int refused = settlement.refused.size() + settlement.unknown.size();
        wave.settled(settlement.acknowledged.size() + settlement.movedOn.size() + refused, refused);
    }

    /** One bad record never stops the others. */
    private void halves(List<Line> batch) {
        for (List<Line> half :
                List.of(batch.subList(0, batch.size() / 2), batch.subList(batch.size() / 2, batch.size()))) {
            inSlot(() -> inNewCall(half));
        }
    }

    /** Nothing of the call took effect, so its lines are planned as before; a call in doubt stays open. */
    private void giveBack(List<Line> batch, int call) {
        if (inDoubt) {
            return;
        }
        Settlement back = new Settlement();
        back.planned.addAll(batch);
        settle(call, back);
    }
}
