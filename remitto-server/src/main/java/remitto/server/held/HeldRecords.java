package remitto.server.held;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import remitto.core.cause.Cause;
import remitto.core.cause.CauseKind;
import remitto.core.known.RecordState;
import remitto.server.platform.Json;
import remitto.server.platform.Personal;
import remitto.server.platform.Rows;
import tools.jackson.databind.JsonNode;

/** Records and values kept back, each with its reason until the cause is gone. */
@Component
public class HeldRecords {
    private static final int REASONS_SHOWN = 5;

    private final JdbcClient jdbc;
    private final Json json;
    private final Clock clock;

    HeldRecords(JdbcClient jdbc, Json json, Clock clock) {
        this.jdbc = jdbc;
        this.json = json;
        this.clock = clock;
    }

    /**
     * Records of a route held for one cause.
     *
     * @param field whose value is held; blank when whole records are
     * @param code the cause, as records are asked for by it
     * @param title the cause in words
     * @param about the field that the cause is about; blank for none
     * @param teller who says so
     * @param remedies what a person may do beyond fixing the cause
     * @param reasons the most frequent reasons, which name the values that cannot be used; the most frequent first
     * @param differentReasons how many different reasons there are in all
     */
    public record HeldGroup(
            long routeId,
            String route,
            String destination,
            String field,
            String code,
            String title,
            String about,
            CauseKind.Teller teller,
            Set<CauseKind.Remedy> remedies,
            List<HeldReason> reasons,
            long differentReasons,
            long records,
            Instant firstSeen) {}

    /**
     * Why some records of a group are held.
     *
     * @param records how many are held for exactly this
     */
    public record HeldReason(
            @Personal(Personal.Part.IN_TEXT) String reason, long records) {}

    /**
     * A record, or one of its values, that is held.
     *
     * @param field blank when the whole record is held
     * @param values what it held and was to receive when it was last seen, by field
     */
    public record HeldRecord(
            long id,
            long routeId,
            String route,
            @Personal(Personal.Part.KEY) String key,
            @Personal String label,
            String field,
            String code,
            @Personal(Personal.Part.IN_TEXT) String reason,
            long runId,
            Instant firstSeen,
            Instant lastSeen,
            int tries,
            List<HeldValue> values) {}

    /**
     * A value that is held, with its reason.
     *
     * @param old what was there; absent when it was not read
     */
    public record HeldValue(
            String field,
            @Personal Optional<String> old,
            @Personal Optional<String> fresh) {}

    /** A record the destination refused. */
    public record Refusal(String key, String label, String reason, int line) {}

    /** Takes over what a newly drawn manifest holds, and releases what it no longer does. */
    public void prepared(long routeId, long runId, boolean whole) {
        var now = Rows.time(clock.instant());
        jdbc.sql("""
                        insert into held (route_id, source_key, label, field, code, reason, by_destination, detail, run_id,
                          line, first_seen, last_seen, tries)
                        select distinct on (source_key, field, code) :route, source_key, label, field, code, reason,
                          code = any (:told), fields, :run, line, :now, :now, 1
                        from (
                          select source_key, label, '' as field, code, reason, line, fields from manifest_line
                          where run_id = :run and verdict = 'HELD' and code <> :only
                          union all
                          select source_key, label, f ->> 'field', format('%s:%s', :value::text, f ->> 'field'), f ->> 'reason', line, fields
                          from manifest_line, jsonb_array_elements(fields) as f
                          where run_id = :run and f ->> 'outcome' = 'HELD') as now_held
                        order by source_key, field, code, line
                        on conflict (route_id, source_key, field, code) do update
                        set reason = excluded.reason,
                            label = case when excluded.label = '' then held.label else excluded.label end,
                            detail = case when excluded.detail = '[]' then held.detail else excluded.detail end,
                            -- What was sent stays where it can be settled: at the line that was sent.
                            run_id = case when held.by_destination then held.run_id else excluded.run_id end,
                            line = case when held.by_destination then held.line else excluded.line end,
                            last_seen = excluded.last_seen, tries = held.tries + 1
                        """)
                .param("told", new String[] {CauseKind.REFUSED.code(), CauseKind.OUTCOME_UNKNOWN.code()})
                .param("only", CauseKind.ONLY_HELD_VALUES.code())
                .param("value", CauseKind.VALUE.code())
                .param("route", routeId)
                .param("run", runId)
                .param("now", now)
                .update();
        if (whole) {
            jdbc.sql("""
                            delete from held h where h.route_id = :route and h.last_seen < :now
                              and (not h.by_destination or not exists (
                                select 1 from manifest_line m where m.run_id = :run and m.source_key = h.source_key
                                  and m.verdict in ('ADDED', 'CHANGED', 'REMOVED')))
                            """)
                    .param("route", routeId)
                    .param("run", runId)
                    .param("now", now)
                    .update();
        }
    }

    /** @param kind whether they were refused, or nobody knows */
    public void refused(long routeId, long runId, CauseKind kind, List<Refusal> refusals) {
        if (refusals.isEmpty()) {
            return;
        }
        jdbc.sql("""
                        insert into held (route_id, source_key, label, field, code, reason, by_destination, detail, run_id,
                          line, first_seen, last_seen, tries)
                        select :route, got.key, got.label, '', :code, got.reason, true, coalesce(m.fields, '[]'), :run,
                          got.line, :now, :now, 1
                        from unnest(:keys::text[], :labels::text[], :reasons::text[], :lines::int[])
                          as got (key, label, reason, line)
                        left join manifest_line m on m.run_id = :run and m.line = got.line
                        on conflict (route_id, source_key, field, code) do update
                        set reason = excluded.reason, label = excluded.label, detail = excluded.detail,
                            run_id = excluded.run_id, line = excluded.line, last_seen = excluded.last_seen,
                            tries = held.tries + 1
                        """)
                .param("route", routeId)
                .param("run", runId)
                .param("code", kind.code())
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

    /** Lets records go again with the same input; returns how many. What nobody knows the outcome of is not among them. */
    public int release(long routeId, Collection<String> keys) {
        return jdbc.sql("""
                        update record_state s set state = 0, state_reason = '', input_fingerprint = 0
                        from route_record r join held h on h.route_id = r.route_id and h.source_key = r.source_key
                        where r.route_id = :route and r.source_key = any (:keys) and s.route_id = r.route_id
                          and s.ordinal = r.ordinal and s.state in (:none, :refused)
                        """)
                .param("route", routeId)
                .param("keys", keys.toArray(String[]::new))
                .param("none", RecordState.NONE.ordinal())
                .param("refused", RecordState.REFUSED.ordinal())
                .update();
    }

    /** Keys of the records of a group. */
    public List<String> keys(long routeId, Cause cause, int limit) {
        return jdbc.sql(
                        "select distinct source_key from held where route_id = ? and code = ? order by source_key limit ?")
                .params(routeId, cause.spelled(), limit)
                .query(String.class)
                .list();
    }

    /** Where a held record stands in its manifest. */
    public record Place(String key, long runId, int line) {}

    public List<Place> places(long routeId, Cause cause, Collection<String> keys) {
        return jdbc.sql(
                        "select source_key, run_id, line from held where route_id = ? and code = ? and source_key = any (?)")
                .params(routeId, cause.spelled(), keys.toArray(String[]::new))
                .query((row, number) ->
                        new Place(row.getString("source_key"), row.getLong("run_id"), row.getInt("line")))
                .list();
    }

    public long count() {
        return jdbc.sql("select count(*) from held").query(Long.class).single();
    }

    public List<HeldGroup> groups() {
        return jdbc.sql("""
                        with worded as (
                          -- Which row it was tells nothing about how many there are.
                          select route_id, field, code, regexp_replace(reason, ' \\(row \\d+ as read\\)$', '') as reason, first_seen
                          from held),
                        counted as (
                          select route_id, field, code, reason, count(*) as records, min(first_seen) as first_seen,
                            row_number() over (partition by route_id, field, code order by count(*) desc, reason) as place
                          from worded group by route_id, field, code, reason)
                        select h.route_id, r.name as route, d.name as destination, h.field, h.code,
                               array_agg(h.reason order by h.place) filter (where h.place <= :shown) as reasons,
                               array_agg(h.records order by h.place) filter (where h.place <= :shown) as times,
                               count(*) as different, sum(h.records)::bigint as records, min(h.first_seen) as first_seen
                        from counted h join route r on r.id = h.route_id join destination d on d.id = r.destination_id
                        group by h.route_id, r.name, d.name, h.field, h.code
                        order by sum(h.records) desc, r.name, h.code
                        """)
                .param("shown", REASONS_SHOWN)
                .query((row, number) -> group(row))
                .list();
    }

    private static List<HeldReason> reasons(ResultSet row) throws SQLException {
        String[] reasons = (String[]) row.getArray("reasons").getArray();
        Long[] times = (Long[]) row.getArray("times").getArray();
        List<HeldReason> all = new ArrayList<>();
        for (int at = 0; at < reasons.length; at++) {
            all.add(new HeldReason(reasons[at], times[at]));
        }
        return all;
    }

    private static HeldGroup group(ResultSet row) throws SQLException {
        Cause cause = Cause.read(row.getString("code"));
        CauseKind kind = cause.kind().orElseThrow();
        return new HeldGroup(
                row.getLong("route_id"),
                row.getString("route"),
                row.getString("destination"),
                row.getString("field"),
                cause.spelled(),
                cause.title(),
                cause.field(),
                kind.teller(),
                kind.remedies(),
                reasons(row),
                row.getLong("different"),
                row.getLong("records"),
                Rows.time(row, "first_seen"));
    }

    /** What is wanted of the held records; blank and 0 mean any. */
    record Filter(long routeId, String code, String field, String find) {}

    List<HeldRecord> page(Filter filter, long after, int limit) {
        return jdbc.sql("""
                        select h.*, r.name as route from held h join route r on r.id = h.route_id
                        where (:route = 0 or h.route_id = :route) and (:code = '' or h.code = :code)
                          and (:field = '' or h.field = :field or h.code like '%:' || :field) and h.id > :after
                          and (:find = '' or h.source_key ilike '%' || :find || '%' or h.label ilike '%' || :find || '%'
                               or h.reason ilike '%' || :find || '%')
                        order by h.id limit :limit
                        """)
                .param("route", filter.routeId())
                .param("code", filter.code())
                .param("field", filter.field())
                .param("find", filter.find())
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
                        row.getInt("tries"),
                        values(row.getString("detail"))))
                .list();
    }

    private List<HeldValue> values(String detail) {
        List<HeldValue> values = new ArrayList<>();
        for (JsonNode node : json.tree(detail)) {
            values.add(new HeldValue(node.path("field").asString(""), text(node, "old"), text(node, "fresh")));
        }
        return values;
    }

    private static Optional<String> text(JsonNode node, String name) {
        return node.has(name) ? Optional.of(node.get(name).asString("")) : Optional.empty();
    }
}
