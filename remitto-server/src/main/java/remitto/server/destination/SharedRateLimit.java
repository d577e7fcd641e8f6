package remitto.server.destination;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.concurrent.locks.LockSupport;
import org.springframework.jdbc.core.simple.JdbcClient;
import remitto.connect.destination.RateLimit;
import remitto.connect.profile.Profile;
import remitto.server.platform.Rows;

/**
 * A bucket of one call per destination in the database (the generic cell rate algorithm of ITU-T I.371 with no
 * burst), so that every route and process shares it. Grants a little under what the destination allows, since
 * its clock and ours are not the same.
 */
final class SharedRateLimit implements RateLimit {
    private static final double SAFETY = 0.985;

    /** Nobody asks to wait longer; a time further ahead was written before the clock was set back. */
    private static final Duration LONGEST = Duration.ofDays(1);

    private final JdbcClient jdbc;
    private final Clock clock;
    private final long destinationId;
    private final Duration interval;

    SharedRateLimit(JdbcClient jdbc, Clock clock, long destinationId, Profile.Limits limits) {
        this.jdbc = jdbc;
        this.clock = clock;
        this.destinationId = destinationId;
        this.interval = Duration.ofNanos((long) (limits.periodSeconds() * 1e9 / limits.calls() / SAFETY));
    }

    @Override
    public void await() {
        Instant now = clock.instant();
        Instant mine = jdbc.sql("""
                        update rate_limit set next_at = case when next_at > :insane then :now else greatest(next_at, :now) end
                          + make_interval(secs => :interval)
                        where destination_id = :id
                        returning next_at - make_interval(secs => :interval) as mine
                        """)
                .param("now", Rows.time(now))
                .param("insane", Rows.time(now.plus(LONGEST)))
                .param("interval", interval.toNanos() / 1e9)
                .param("id", destinationId)
                .query((row, number) -> Rows.time(row, "mine"))
                .single();
        long until = System.nanoTime() + Duration.between(now, mine).toNanos();
        // A thread that was woken once too often before is woken at once here, long before its time.
        for (long left = until - System.nanoTime();
                left > 0 && !Thread.currentThread().isInterrupted();
                left = until - System.nanoTime()) {
            LockSupport.parkNanos(left);
        }
    }

    @Override
    public void pause(Duration length) {
        jdbc.sql("update rate_limit set next_at = greatest(next_at, :until) where destination_id = :id")
                .param("until", Rows.time(clock.instant().plus(length)))
                .param("id", destinationId)
                .update();
    }
}
