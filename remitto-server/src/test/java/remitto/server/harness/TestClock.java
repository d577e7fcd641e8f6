package remitto.server.harness;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.time.ZoneOffset;

/** A clock that goes on only when a test says so. */
public final class TestClock extends Clock {
    private volatile Instant now = Instant.parse("2026-11-27T09:00:00Z");

    public void forward(Duration time) {
        now = now.plus(time);
    }

    @Override
    public Instant instant() {
        return now;
    }

    @Override
    public ZoneId getZone() {
        return ZoneOffset.UTC;
    }

    @Override
    public Clock withZone(ZoneId zone) {
        throw new UnsupportedOperationException("times are told in UTC");
    }
}
