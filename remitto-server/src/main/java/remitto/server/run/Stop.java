package remitto.server.run;

import java.time.Duration;
import java.util.Optional;
import java.util.concurrent.atomic.AtomicReference;
import remitto.connect.destination.Destination;
import remitto.core.run.Halt;

/** Whether the threads that send a run may go on, and why not. Safe to share between them. */
public final class Stop {
    private static final long LOOK_MILLIS = 100;

    private record Why(Halt halt, String message) {}

    private final Progress progress;
    private final AtomicReference<Why> why = new AtomicReference<>();
    private final AtomicReference<Destination.Exchange> exchange = new AtomicReference<>();

    public Stop(Progress progress) {
        this.progress = progress;
    }

    /** The first reason counts. */
    public void halt(Halt halt, String message) {
        why.compareAndSet(null, new Why(halt, message));
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
        return why.get() == null && !progress.isCancelled();
    }

    public Halt halt() {
        return Optional.ofNullable(why.get()).map(Why::halt).orElse(Halt.NONE);
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
            Thread.currentThread().interrupt();
            halt(Halt.FAULT, "The server was stopped");
        }
    }

    /** Waits until a call in flight can no longer land, whatever else happens. */
    public void waitOut(Duration length) {
        if (length.isNegative() || length.isZero()) {
            return;
        }
        try {
            Thread.sleep(length.toMillis());
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            halt(Halt.FAULT, "The server was stopped");
        }
    }
}
