package remitto.server.run;

import java.time.Instant;
import java.util.Optional;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import remitto.core.route.Waves;
import remitto.server.platform.Rows;

/** What earlier runs of a route did, and how far a run itself is. */
@Component
public class RunHistory {
    private final JdbcClient jdbc;

    RunHistory(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    /** How far the first wave of a run is: lines that have an outcome, those refused among them, and its release. */
    public FirstWave firstWave(long id, Optional<Waves> waves) {
        if (waves.isEmpty()) {
            return FirstWave.none();
        }
        return jdbc.sql("""
                        select wave_passed,
                          (select count(*) from line_outcome o where o.run_id = r.id and o.state <> 'CANCELLED') as sent,
                          (select count(*) from line_outcome o where o.run_id = r.id and o.state in ('REFUSED', 'UNKNOWN'))
                            as refused
                        from run r where r.id = ?
                        """)
                .param(id)
                .query((row, number) -> new FirstWave(
                        waves, row.getLong("sent"), row.getLong("refused"), row.getBoolean("wave_passed")))
                .single();
    }

    /** True when an earlier run of the route read the whole dataset. */
    public boolean readBefore(long routeId, long id) {
        return jdbc.sql("""
                        select count(*) from run
                        where route_id = ? and id < ? and trigger in ('HAND', 'TIMETABLE') and prepared_at is not null
                        """).params(routeId, id).query(Long.class).single() > 0;
    }

    /** Rows read by the last whole run before this one that was not thrown away, and when it was prepared. */
    public record Before(long id, long read, Instant preparedAt) {}

    public Optional<Before> before(long routeId, long id) {
        return jdbc.sql("""
                        select id, read_count, prepared_at from run
                        where route_id = ? and id < ? and trigger in ('HAND', 'TIMETABLE') and state in ('SENT', 'SUSPENDED')
                          and prepared_at is not null
                        order by id desc limit 1
                        """)
                .params(routeId, id)
                .query((row, number) ->
                        new Before(row.getLong("id"), row.getLong("read_count"), Rows.time(row, "prepared_at")))
                .optional();
    }

    /** Records a route's runs added or removed since a moment, as acknowledged. */
    public record Moved(long added, long removed) {}

    public Moved movedSince(long routeId, Instant since) {
        return jdbc.sql("""
                        select count(*) filter (where m.verdict = 'ADDED') as added,
                               count(*) filter (where m.verdict = 'REMOVED') as removed
                        from run r join line_outcome o on o.run_id = r.id and o.state = 'ACKNOWLEDGED'
                        join manifest_line m on m.run_id = o.run_id and m.line = o.line
                        where r.route_id = ? and r.sent_at >= ? and r.trigger <> 'UNDO'
                        """)
                .params(routeId, Rows.time(since))
                .query((row, number) -> new Moved(row.getLong("added"), row.getLong("removed")))
                .single();
    }
}
