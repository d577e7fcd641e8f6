package remitto.demo.history;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.time.ZoneOffset;

/** The system's clock, running at its own pace but set to another time. */
public final class ShiftedClock extends Clock {
    private volatile Duration offset = Duration.ZERO;

    public void set(Instant instant) {
        offset = Duration.between(Instant.now(), instant);
    }

    @Override
    public Instant instant() {
        return Instant.now().plus(offset);
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
