package remitto.server.run;

import java.time.Duration;
import java.util.Optional;
import java.util.concurrent.atomic.AtomicReference;
import remitto.connect.destination.Destination;
import remitto.core.run.Suspension;

/** Whether the threads that send a run may go on, and why not. Safe to share between them. */
public final class Stop {
    private static final long LOOK_MILLIS = 100;

    private record Why(Suspension suspension, String message) {}

    private final Progress progress;
    private final AtomicReference<Why> why = new AtomicReference<>();
    private final AtomicReference<Destination.Exchange> exchange = new AtomicReference<>();
    private volatile boolean ended;

    public Stop(Progress progress) {
        this.progress = progress;
    }

    /** The first reason counts. */
    public void suspension(Suspension suspension, String message) {
        why.compareAndSet(null, new Why(suspension, message));
    }

    /** Nobody is to begin anything more: sending comes to its end, for whatever reason there is, or none. */
    public void end() {
        ended = true;
    }

    /** Whether the run is this process's for certain, so that a call with effect may be made. */
    public boolean isHeld() {
        return progress.isHeld();
    }

    /** Waits until it is known whether the run is still this process's. */
    public void awaitHold() {
        while (goesOn() && !isHeld()) {
            pause(Duration.ofMillis(LOOK_MILLIS));
        }
    }

    public boolean goesOn() {
        return !ended && why.get() == null && !progress.isToStop();
    }

    public Suspension suspension() {
        return Optional.ofNullable(why.get()).map(Why::suspension).orElse(Suspension.NONE);
    }

    public String message() {
        return Optional.ofNullable(why.get()).map(Why::message).orElse("");
    }

    public void exchanged(Destination.Exchange made) {
        exchange.set(made);
    }

    public Optional<Destination.Exchange> lastExchange() {
        return Optional.ofNullable(exchange.get());
    }

    /** Waits, but not longer than it may go on. */
    public void pause(Duration length) {
        long until = System.nanoTime() + length.toNanos();
        try {
            while (goesOn() && System.nanoTime() < until) {
                long left = (until - System.nanoTime()) / 1_000_000 + 1;
                Thread.sleep(Math.min(LOOK_MILLIS, left));
            }
        } catch (InterruptedException e) {
            interrupted();
        }
    }

    /**
     * Waits until a call in flight can no longer land, whatever else happens.
     *
     * @return false when it may still land, since the server does not wait for it
     */
    public boolean waitOut(Duration length) {
        try {
            if (length.toMillis() > 0) {
                Thread.sleep(length.toMillis());
            }
            return true;
        } catch (InterruptedException e) {
            interrupted();
            return false;
        }
    }

    /** The server ends without waiting any longer; another goes on with the run. */
    public void interrupted() {
        Thread.currentThread().interrupt();
        suspension(Suspension.LOST, "The server was stopped");
    }
}
