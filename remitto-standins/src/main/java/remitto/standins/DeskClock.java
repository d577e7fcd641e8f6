package remitto.standins;

import java.time.Clock;
import java.time.Instant;
import java.time.ZoneId;
import java.time.ZoneOffset;
import java.util.Optional;

/** The system's clock until somebody sets another time; a set time stands still. */
public final class DeskClock extends Clock {
    private volatile Optional<Instant> set = Optional.empty();

    public void set(Optional<Instant> instant) {
        this.set = instant;
    }

    @Override
    public Instant instant() {
        return set.orElseGet(Instant::now);
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
