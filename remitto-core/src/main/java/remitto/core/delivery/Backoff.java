package remitto.core.delivery;

import java.time.Duration;

/**
 * How long to wait before trying again: doubling from a first wait up to a cap, with full jitter (a share of the
 * wait picked at random), or as long as the destination asks.
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
        return Duration.ofMillis(capped / 2 + (long) (capped / 2.0 * random));
    }
}
