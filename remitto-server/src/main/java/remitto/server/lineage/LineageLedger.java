package remitto.server.lineage;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Clock;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import remitto.server.platform.Rows;

/** What was told already, and what is still to be told: read off the runs themselves, so that a server that was stopped forgets nothing. */
@Component
class LineageLedger {
    private static final int AT_ONCE = 200;

    private final JdbcClient jdbc;
    private final Clock clock;

    LineageLedger(JdbcClient jdbc, Clock clock) {
        this.jdbc = jdbc;
        this.clock = clock;
    }

    /** What an event is about. */
    enum What {
        RUN,
        MATCHING
    }

    /** Which of its two events. */
    enum Phase {
        BEGIN,
        END
    }

    /**
     * An event that nobody was told yet.
     *
     * @param at when it came about
     */
    record Untold(What what, long subject, Phase phase, Instant at) {}

    /** The earliest first; a run's end never before its beginning. What began more than thirty days ago is given up. */
    List<Untold> untold() {
        Instant since = since();
        return jdbc.sql("""
                        with subject as (
                          select 'RUN' as what, id, started_at, finished_at from run
                          where started_at >= greatest(:since, :now::timestamptz - interval '30 days') and trigger <> 'TRIAL'
                          union all
                          select 'MATCHING', id, started_at, finished_at from identity_run
                          where started_at >= greatest(:since, :now::timestamptz - interval '30 days')),
                        event as (
                          select what, id, 'BEGIN' as phase, started_at as at from subject
                          union all
                          select what, id, 'END', finished_at from subject where finished_at is not null)
                        select * from event e where not exists (
                          select from lineage_event t where t.what = e.what and t.subject = e.id and t.phase = e.phase)
                        order by at, what, id, phase limit :most
                        """)
                .param("since", Rows.time(since))
                .param("now", Rows.time(clock.instant()))
                .param("most", AT_ONCE)
                .query((row, number) -> untold(row))
                .list();
    }

    private static Untold untold(ResultSet row) throws SQLException {
        return new Untold(
                What.valueOf(row.getString("what")),
                row.getLong("id"),
                Phase.valueOf(row.getString("phase")),
                Rows.time(row, "at"));
    }

    private Instant since() {
        jdbc.sql("insert into lineage_since (since) values (?) on conflict do nothing")
                .param(Rows.time(clock.instant()))
                .update();
        Optional<Instant> since = jdbc.sql("select since from lineage_since")
                .query((row, number) -> Rows.time(row, "since"))
                .optional();
        return since.orElseThrow();
    }

    void told(Untold event) {
        jdbc.sql("insert into lineage_event (what, subject, phase, told_at) values (?, ?, ?, ?) on conflict do nothing")
                .params(event.what().name(), event.subject(), event.phase().name(), Rows.time(clock.instant()))
                .update();
    }
}
