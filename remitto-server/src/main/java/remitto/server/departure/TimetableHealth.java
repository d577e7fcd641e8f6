package remitto.server.departure;

import java.time.Duration;
import java.time.Instant;
import java.util.Optional;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import remitto.server.platform.Rows;

/** Whether some process looks at the timetable. */
@Component
public class TimetableHealth {
    /** It is looked at every second or so. */
    private static final Duration LATE = Duration.ofMinutes(1);

    private final JdbcClient jdbc;

    TimetableHealth(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    /**
     * When the timetable was last looked at to the end and without a fault, by whichever process, if that is longer ago than it may be;
     * empty while all is well. Told by the database's clock, whatever the servers' clocks say.
     */
    public Optional<Instant> lateSince() {
        return jdbc.sql("""
                        select last_success from scheduled_tasks
                        where task_name = ? and last_success < clock_timestamp() - make_interval(secs => ?)
                        """)
                .params(Departures.TASK, LATE.toSeconds())
                .query((row, number) -> Rows.time(row, "last_success"))
                .optional();
    }
}
