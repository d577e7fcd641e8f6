package remitto.standins.fault;

import java.time.Duration;
import java.util.ArrayDeque;
import java.util.Optional;

/** So many calls in any window of a given length, counted by a sliding window in monotonic time. */
public final class CallLimit {
    private final int calls;
    private final long windowNanos;
    private final ArrayDeque<Long> taken = new ArrayDeque<>();
    private final Duration window;
    private boolean on = true;

    public CallLimit(int calls, Duration window) {
        this.calls = calls;
        this.window = window;
        this.windowNanos = window.toNanos();
    }

    public synchronized void switchTo(boolean on) {
        this.on = on;
        taken.clear();
    }

    public synchronized boolean isOn() {
        return on;
    }

    public String words() {
        return calls + " calls in " + window.toSeconds() + " seconds";
    }

    /** Takes a call, or says how long to wait for the next one. */
    public synchronized Optional<Duration> take(long nanoTime) {
        if (!on) {
            return Optional.empty();
        }
        while (!taken.isEmpty() && nanoTime - taken.peekFirst() >= windowNanos) {
            taken.removeFirst();
        }
        if (taken.size() >= calls) {
            return Optional.of(Duration.ofNanos(windowNanos - (nanoTime - taken.peekFirst())));
        }
        taken.addLast(nanoTime);
        return Optional.empty();
    }
}
