package remitto.core.delivery;

import java.time.Duration;

/**
 * How long to wait before trying again: up to a wait that doubles from a first one to a cap, all of it at random (full jitter, after
 * Brooker, "Exponential Backoff and Jitter", AWS Architecture Blog 2015), or as long as the destination asks.
 */
public record Backoff(Duration first, Duration cap, int tries) {
    public static Backoff defaults() {
        return new Backoff(Duration.ofMillis(500), Duration.ofSeconds(30), 6);
    }

    /**
     * @param attempt tries made so far, from 1
     * @param random from 0 to 1
     */
    public Duration pause(int attempt, double random) {
        long doubled = first.toMillis() << Math.min(attempt - 1, 20);
        long capped = Math.min(cap.toMillis(), doubled);
        return Duration.ofMillis((long) (capped * random));
    }
}
