package remitto.server.delivery;

import java.time.Duration;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.List;
import java.util.Optional;
import java.util.function.BooleanSupplier;

/**
 * Takes in what the answered calls of one run brought, behind the calls: when the machine has time for it, and in any case
 * once it is too far behind. Sending goes first, since a destination's time is scarcer than the machine's. Safe to share
 * between the threads that send the run.
 */
final class AcknowledgementQueue implements AutoCloseable {
    private static final long LOOK_MILLIS = 100;

    /**
     * @param bite lines taken in at once
     * @param behind lines that may wait while the machine is busy
     * @param latest how long it may be before something is taken in, busy or not
     */
    record Limits(int bite, int behind, Duration latest) {}

    /** Takes calls in, all or none of them. Called by several threads at once, never for the same call. */
    @FunctionalInterface
    interface TakeIn {
        void of(List<OpenCalls.AnsweredCall> some);
    }

    private final TakeIn takeIn;
    private final BooleanSupplier hasTime;
    private final Limits limits;
    private final Deque<OpenCalls.AnsweredCall> waiting = new ArrayDeque<>();
    private Optional<Thread> keeper = Optional.empty();
    private Optional<RuntimeException> failure = Optional.empty();
    private long lines;
    private long behindSince;
    private boolean ended;

    /** @param hasTime whether the machine has time; asked now and then */
    AcknowledgementQueue(TakeIn takeIn, BooleanSupplier hasTime, Limits limits) {
        this.takeIn = takeIn;
        this.hasTime = hasTime;
        this.limits = limits;
    }

    /** Begins to take in by itself. */
    void follow(String thread) {
        Thread started = new Thread(this::keep, thread);
        keeper = Optional.of(started);
        started.start();
    }

    /** A call more was answered. */
    synchronized void add(OpenCalls.AnsweredCall call) {
        if (waiting.isEmpty()) {
            behindSince = System.nanoTime();
        }
        waiting.add(call);
        lines += call.lines();
    }

    /** False once something could not be taken in; {@link #close} says why. */
    synchronized boolean areKept() {
        return failure.isEmpty();
    }

    /** Takes in all that waits now. */
    void takeInAll() {
        for (List<OpenCalls.AnsweredCall> some = next(); !some.isEmpty(); some = next()) {
            takeIn.of(some);
        }
    }

    /** Takes in what is left, and throws what kept it from that, if anything did. */
    @Override
    public void close() {
        synchronized (this) {
            ended = true;
            notifyAll();
        }
        try {
            takeInAll();
        } finally {
            join();
        }
        synchronized (this) {
            failure.ifPresent(failed -> {
                throw failed;
            });
        }
    }

    private void join() {
        keeper.ifPresent(thread -> {
            try {
                thread.join();
            } catch (InterruptedException e) {
                Thread.currentThread().interrupt();
            }
        });
    }

    private void keep() {
        try {
            while (waitForTime()) {
                takeIn.of(next());
            }
            takeInAll();
        } catch (RuntimeException e) {
            synchronized (this) {
                failure = Optional.of(e);
            }
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }

    /** @return false when no more calls will be answered */
    private synchronized boolean waitForTime() throws InterruptedException {
        while (!ended && !isTime()) {
            wait(LOOK_MILLIS);
        }
        return !ended;
    }

    private boolean isTime() {
        return !waiting.isEmpty()
                && (lines > limits.behind()
                        || System.nanoTime() - behindSince > limits.latest().toNanos()
                        || hasTime.getAsBoolean());
    }

    private synchronized List<OpenCalls.AnsweredCall> next() {
        List<OpenCalls.AnsweredCall> some = new ArrayList<>();
        int taken = 0;
        while (!waiting.isEmpty() && (some.isEmpty() || taken + waiting.peek().lines() <= limits.bite())) {
            OpenCalls.AnsweredCall call = waiting.remove();
            some.add(call);
            taken += call.lines();
        }
        lines -= taken;
        behindSince = System.nanoTime();
        return some;
    }
}
