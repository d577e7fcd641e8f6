package remitto.server.audience;

import java.time.Instant;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import remitto.core.timetable.Schedule;
import remitto.server.platform.Rows;

/** When audiences are brought up to date. */
@Component
public class AudienceTimetable {
    private final AudienceRefresh refresh;
    private final JdbcClient jdbc;

    AudienceTimetable(AudienceRefresh refresh, JdbcClient jdbc) {
        this.refresh = refresh;
        this.jdbc = jdbc;
    }

    public Schedule schedule() {
        return refresh.state().schedule();
    }

    /** Lets them be brought up to date at the next look. */
    public void dueSince(Instant at) {
        jdbc.sql("update audience_setting set next_run = ?")
                .param(Rows.time(at))
                .update();
    }
}
