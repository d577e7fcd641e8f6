package remitto.server.run;

import java.util.concurrent.atomic.AtomicLong;

/** How far a run of this process is; shared between the threads that work on it and those that watch. */
final class Progress {
    private final AtomicLong done = new AtomicLong();
    private volatile long total;
    private volatile long startedNanos = System.nanoTime();
    private volatile boolean cancelled;
    private volatile boolean paused;

    /**
     * @param total how many to expect; 0 when unknown
     * @param perSecond records a second since this phase began
     */
    record Snapshot(long done, long total, double perSecond) {}

    void begin(long expected) {
        done.set(0);
        total = expected;
        startedNanos = System.nanoTime();
    }

    void add(long more) {
        done.addAndGet(more);
    }

    void cancel() {
        cancelled = true;
    }

    /** Stops after the calls in flight, keeping what is left. */
    void pause() {
        paused = true;
        cancelled = true;
    }

    boolean isPaused() {
        return paused;
    }

    boolean isCancelled() {
        return cancelled;
    }

    Snapshot snapshot() {
        double seconds = Math.max(0.001, (System.nanoTime() - startedNanos) / 1e9);
        return new Snapshot(done.get(), total, done.get() / seconds);
    }
}
