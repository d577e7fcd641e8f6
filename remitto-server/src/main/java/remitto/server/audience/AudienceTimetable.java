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

    /** Makes counting due where it runs when its data changes; another timetable that was set meanwhile holds. */
    public void dataChanged(Instant at) {
        jdbc.sql("update audience_setting set next_run = ? where schedule ->> 'kind' = 'on-change'")
                .param(Rows.time(at))
                .update();
    }
}
