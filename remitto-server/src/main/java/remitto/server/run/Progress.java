package remitto.server.run;

import java.time.Duration;
import java.util.concurrent.atomic.AtomicLong;
import java.util.concurrent.atomic.AtomicReference;
import remitto.core.run.Asked;

/** How far a run of this process is; shared between the threads that work on it and those that watch. */
public final class Progress {
    /** A run that just began was written down as this process's. */
    private static final Duration FIRST = Duration.ofSeconds(7);

    private final AtomicLong done = new AtomicLong();
    private volatile long total;
    private volatile long startedNanos = System.nanoTime();
    private final AtomicReference<Asked> asked = new AtomicReference<>(Asked.NOTHING);
    private volatile long heldUntilNanos = System.nanoTime() + FIRST.toNanos();

    /**
     * @param total how many to expect; 0 when unknown
     * @param perSecond records a second since this phase began
     */
    public record Snapshot(long done, long total, double perSecond) {}

    public void begin(long expected) {
        done.set(0);
        total = expected;
        startedNanos = System.nanoTime();
    }

    public void add(long more) {
        done.addAndGet(more);
    }

    /** @param nanos of the clock that only goes forward, until which nobody else takes the run over */
    public void heldUntil(long nanos) {
        heldUntilNanos = nanos;
    }

    /** Whether the run is this process's for certain. The clock goes on while a process is paused. */
    public boolean isHeld() {
        return System.nanoTime() - heldUntilNanos < 0;
    }

    /** Whatever is asked, the calls in flight are finished. */
    public void ask(Asked request) {
        asked.accumulateAndGet(request, Asked::and);
    }

    /** The strongest that was asked. */
    public Asked asked() {
        return asked.get();
    }

    /** Whether there is anything that keeps it from going on. */
    public boolean isToStop() {
        return asked.get() != Asked.NOTHING;
    }

    public Snapshot snapshot() {
        double seconds = Math.max(0.001, (System.nanoTime() - startedNanos) / 1e9);
        return new Snapshot(done.get(), total, done.get() / seconds);
    }
}
