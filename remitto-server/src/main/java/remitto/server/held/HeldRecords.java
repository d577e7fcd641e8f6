package remitto.server.held;

import java.time.Clock;
import java.time.Instant;
import java.util.List;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import remitto.server.platform.Rows;

/** Records and values kept back, each with its reason until the cause is gone. */
@Component
public class HeldRecords {
    private final JdbcClient jdbc;
    private final Clock clock;

    HeldRecords(JdbcClient jdbc, Clock clock) {
        this.jdbc = jdbc;
        this.clock = clock;
    }

    /** Records of a route held for one kind of reason. */
    public record HeldGroup(
            long routeId,
            String route,
            String destination,
            String field,
            String code,
            String example,
            long records,
            Instant firstSeen) {}

    /** @param field blank when the whole record is held */
    public record HeldRecord(
            long id,
            long routeId,
            String route,
            String key,
            String label,
            String field,
            String code,
            String reason,
            long runId,
            Instant firstSeen,
            Instant lastSeen,
            int tries) {}

    /** A record the destination refused. */
    public record Refusal(String key, String label, String reason, int line) {}

    /** Takes over what a newly drawn manifest holds, and releases what it no longer does. */
    public void drawn(long routeId, long runId, boolean whole) {
        jdbc.sql("""
                        insert into held (route_id, source_key, label, field, code, reason, by_destination, detail, run_id,
                          line, first_seen, last_seen, tries)
                        select distinct on (source_key, field, code) :route, source_key, label, field, code, reason,
                          code = 'refused', '{}', :run, line, :now, :now, 1
                        from (
                          select source_key, label, '' as field, code, reason, line from manifest_line
                          where run_id = :run and verdict = 'HELD' and code <> 'value-held'
                          union all
                          select source_key, label, f ->> 'field', 'value:' || (f ->> 'field'), f ->> 'reason', line
                          from manifest_line, jsonb_array_elements(fields) as f
                          where run_id = :run and f ->> 'outcome' = 'HELD') as now_held
                        order by source_key, field, code, line
                        on conflict (route_id, source_key, field, code) do update
                        set reason = excluded.reason, label = excluded.label, run_id = excluded.run_id,
                            line = excluded.line, last_seen = excluded.last_seen, tries = held.tries + 1
                        """)
                .param("route", routeId)
                .param("run", runId)
                .param("now", Rows.time(clock.instant()))
                .update();
        if (whole) {
            jdbc.sql("delete from held where route_id = ? and run_id <> ? and not by_destination")
                    .params(routeId, runId)
                    .update();
        }
    }

    public void refused(long routeId, long runId, List<Refusal> refusals) {
        if (refusals.isEmpty()) {
            return;
        }
        jdbc.sql("""
                        insert into held (route_id, source_key, label, field, code, reason, by_destination, detail, run_id,
                          line, first_seen, last_seen, tries)
                        select :route, key, label, '', 'refused', reason, true, '{}', :run, line, :now, :now, 1
                        from unnest(:keys::text[], :labels::text[], :reasons::text[], :lines::int[])
                          as got (key, label, reason, line)
                        on conflict (route_id, source_key, field, code) do update
                        set reason = excluded.reason, label = excluded.label, run_id = excluded.run_id,
                            line = excluded.line, last_seen = excluded.last_seen, tries = held.tries + 1
                        """)
                .param("route", routeId)
                .param("run", runId)
                .param("now", Rows.time(clock.instant()))
                .param("keys", refusals.stream().map(Refusal::key).toArray(String[]::new))
                .param("labels", refusals.stream().map(Refusal::label).toArray(String[]::new))
                .param("reasons", refusals.stream().map(Refusal::reason).toArray(String[]::new))
                .param("lines", refusals.stream().map(Refusal::line).toArray(Integer[]::new))
                .update();
    }

    /** Releases what a destination refused before and has taken now. */
    public void released(long routeId, List<String> keys) {
        jdbc.sql("delete from held where route_id = ? and by_destination and source_key = any (?)")
                .params(routeId, keys.toArray(String[]::new))
                .update();
    }

    /** Lets refused records of a group go again with the next run; returns how many. */
    int retry(long routeId, String code) {
        return jdbc.sql("""
                        update route_record r set refused = false, refusal = '', input_fingerprint = 0
                        from held h where h.route_id = :route and h.code = :code and r.route_id = h.route_id
                          and r.source_key = h.source_key
                        """).param("route", routeId).param("code", code).update();
    }

    public long count() {
        return jdbc.sql("select count(*) from held").query(Long.class).single();
    }

    public List<HeldGroup> groups() {
        return jdbc.sql("""
                        select h.route_id, r.name as route, d.name as destination, h.field, h.code,
                               min(h.reason) as example, count(*) as records, min(h.first_seen) as first_seen
                        from held h join route r on r.id = h.route_id join destination d on d.id = r.destination_id
                        group by h.route_id, r.name, d.name, h.field, h.code
                        order by count(*) desc, r.name, h.code
                        """)
                .query((row, number) -> new HeldGroup(
                        row.getLong("route_id"),
                        row.getString("route"),
                        row.getString("destination"),
                        row.getString("field"),
                        row.getString("code"),
                        row.getString("example"),
                        row.getLong("records"),
                        Rows.time(row, "first_seen")))
                .list();
    }

    List<HeldRecord> page(long routeId, String code, String find, long after, int limit) {
        return jdbc.sql("""
                        select h.*, r.name as route from held h join route r on r.id = h.route_id
                        where (:route = 0 or h.route_id = :route) and (:code = '' or h.code = :code) and h.id > :after
                          and (:find = '' or h.source_key ilike '%' || :find || '%' or h.label ilike '%' || :find || '%'
                               or h.reason ilike '%' || :find || '%')
                        order by h.id limit :limit
                        """)
                .param("route", routeId)
                .param("code", code)
                .param("find", find)
                .param("after", after)
                .param("limit", limit)
                .query((row, number) -> new HeldRecord(
                        row.getLong("id"),
                        row.getLong("route_id"),
                        row.getString("route"),
                        row.getString("source_key"),
                        row.getString("label"),
                        row.getString("field"),
                        row.getString("code"),
                        row.getString("reason"),
                        row.getLong("run_id"),
                        Rows.time(row, "first_seen"),
                        Rows.time(row, "last_seen"),
                        row.getInt("tries")))
                .list();
    }
}
