package remitto.server.run;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Consumer;
import org.roaringbitmap.RoaringBitmap;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import remitto.core.delivery.LineState;
import remitto.core.destination.ObjectDescription;
import remitto.core.manifest.Verdict;
import remitto.server.platform.Json;
import remitto.server.platform.Rows;

/** The lines of manifests. */
@Component
class Lines {
    private static final String COLUMNS =
            "line, ordinal, source_key, label, verdict, state, code, reason, remote_id, fields, input_fingerprint,"
                    + " sent_fingerprint, there_read_at, answered_at, answer";

    private final JdbcTemplate template;
    private final JdbcClient jdbc;
    private final LineFields fields;
    private final Clock clock;

    Lines(JdbcTemplate template, JdbcClient jdbc, Json json, Clock clock) {
        this.template = template;
        this.jdbc = jdbc;
        this.fields = new LineFields(json);
        this.clock = clock;
    }

    void add(long runId, Collection<Line> lines) {
        CopyText copy = new CopyText();
        for (Line line : lines) {
            copy.number(runId)
                    .number(line.number())
                    .number(line.ordinal())
                    .text(line.key())
                    .text(line.label())
                    .text(line.verdict().name())
                    .text(line.state().name())
                    .text(line.code())
                    .text(line.reason())
                    .text(line.remoteId())
                    .text(fields.write(line.fields()))
                    .number(line.inputFingerprint())
                    .number(line.sentFingerprint())
                    .time(line.thereReadAt())
                    .endRow();
        }
        copy.load(
                template,
                "manifest_line (run_id, line, ordinal, source_key, label, verdict, state, code, reason, remote_id, fields,"
                        + " input_fingerprint, sent_fingerprint, there_read_at)");
    }

    /** Holds every line of records whose key more than one row has. */
    void holdDoubled(long runId, RoaringBitmap ordinals) {
        jdbc.sql("""
                        update manifest_line set verdict = 'HELD', state = 'NONE', code = 'doubled-key',
                          reason = 'More than one row has the key ' || source_key, input_fingerprint = 0, sent_fingerprint = 0
                        where run_id = ? and ordinal = any (?)
                        """).params(runId, boxed(ordinals)).update();
    }

    /** Source keys of some records of a route, by ordinal. */
    Map<Integer, String> keys(long routeId, RoaringBitmap ordinals) {
        Map<Integer, String> keys = new HashMap<>();
        jdbc.sql("select ordinal, source_key from route_record where route_id = ? and ordinal = any (?)")
                .params(routeId, boxed(ordinals))
                .query(row -> {
                    keys.put(row.getInt("ordinal"), row.getString("source_key"));
                });
        return keys;
    }

    Map<Verdict, Long> countByVerdict(long runId) {
        Map<Verdict, Long> counts = new HashMap<>();
        jdbc.sql("select verdict, count(*) as lines from manifest_line where run_id = ? group by verdict")
                .param(runId)
                .query(row -> {
                    counts.put(Verdict.valueOf(row.getString("verdict")), row.getLong("lines"));
                });
        return counts;
    }

    /** Per field, in how many lines that go it is written and in how many it is held, as JSON. */
    String fieldCounts(long runId) {
        return jdbc.sql("""
                        select coalesce(jsonb_object_agg(field, jsonb_build_object('written', written, 'held', held)), '{}')
                        from (
                          select f ->> 'field' as field,
                                 count(*) filter (where f ->> 'outcome' = 'WRITTEN') as written,
                                 count(*) filter (where f ->> 'outcome' = 'HELD') as held
                          from manifest_line, jsonb_array_elements(fields) as f
                          where run_id = ? and f ->> 'outcome' in ('WRITTEN', 'HELD')
                          group by 1) as counted
                        """).param(runId).query(String.class).single();
    }

    /** Numbers of the planned lines of a verdict behind a line, in order. */
    List<Integer> planned(long runId, Verdict verdict, int after, int limit) {
        return jdbc.sql("""
                        select line from manifest_line
                        where run_id = ? and verdict = ? and line > ? and state = 'PLANNED' order by line limit ?
                        """)
                .params(runId, verdict.name(), after, limit)
                .query(Integer.class)
                .list();
    }

    /** Takes planned lines for sending and writes that down before any call is made. */
    List<Line> claim(long runId, int epoch, List<Integer> numbers, ObjectDescription object) {
        List<Line> lines = new ArrayList<>(jdbc.sql("""
                        update manifest_line m
                        set state = 'SENDING', attempt = attempt + 1, epoch = :epoch, sending_at = :now
                        where m.run_id = :run and m.line = any (:lines) and m.state = 'PLANNED'
                          and exists (select 1 from run where id = :run and epoch = :epoch and state = 'SENDING')
                        returning m.line, m.ordinal, m.source_key, m.label, m.verdict, m.state, m.code, m.reason,
                          m.remote_id, m.fields, m.input_fingerprint, m.sent_fingerprint, m.there_read_at
                        """)
                .param("run", runId)
                .param("lines", numbers.toArray(Integer[]::new))
                .param("epoch", epoch)
                .param("now", Rows.time(clock.instant()))
                .query((row, number) -> line(row, object))
                .list());
        lines.sort(java.util.Comparator.comparingInt(Line::number));
        return lines;
    }

    /** Lets the planner know what a large manifest brought, rather than wait for it to find out. */
    void settled(long runId) {
        jdbc.sql("analyze manifest_line_" + Runs.partition(runId)).update();
        jdbc.sql("analyze route_record").update();
    }

    /** Lines whose outcome nobody knows: they were being sent when their process died, or got no answer. */
    List<Line> unknown(long runId, int limit, ObjectDescription object) {
        return jdbc.sql(
                        "select " + COLUMNS
                                + " from manifest_line where run_id = ? and state in ('SENDING', 'UNKNOWN') order by line limit ?")
                .params(runId, limit)
                .query((row, number) -> line(row, object))
                .list();
    }

    Optional<Instant> newestSending(long runId) {
        return jdbc.sql(
                        "select max(sending_at) as at from manifest_line where run_id = ? and state in ('SENDING', 'UNKNOWN')")
                .param(runId)
                .query((row, number) -> Rows.optionalTime(row, "at"))
                .single();
    }

    void set(long runId, Collection<Integer> lines, LineState state, String answer) {
        if (!lines.isEmpty()) {
            jdbc.sql("update manifest_line set state = ?, answer = ? where run_id = ? and line = any (?)")
                    .params(state.name(), answer, runId, lines.toArray(Integer[]::new))
                    .update();
        }
    }

    void cancelPlanned(long runId) {
        jdbc.sql("update manifest_line set state = 'CANCELLED' where run_id = ? and state = 'PLANNED'")
                .param(runId)
                .update();
    }

    long count(long runId, LineState state) {
        return jdbc.sql("select count(*) from manifest_line where run_id = ? and state = ?")
                .params(runId, state.name())
                .query(Long.class)
                .single();
    }

    void drop(long runId) {
        jdbc.sql("delete from manifest_line where run_id = ?").param(runId).update();
    }

    /** What lines are wanted; blank means any. The verdict MOVES stands for all but those left out. */
    record Filter(String verdict, String state, String field, String find) {}

    record Window(long total, List<LineView> lines) {}

    Window window(long runId, Filter filter, int offset, int limit) {
        String where = """
                 from manifest_line where run_id = :run
                  and (:verdict = '' or verdict = :verdict or :verdict = 'MOVES' and verdict <> 'LEFT_OUT')
                  and (:state = '' or state = :state)
                  and (:field = '' or fields @> jsonb_build_array(jsonb_build_object('field', :field, 'outcome', 'WRITTEN'))
                       or fields @> jsonb_build_array(jsonb_build_object('field', :field, 'outcome', 'HELD')))
                  and (:find = '' or source_key ilike '%' || :find || '%' or label ilike '%' || :find || '%'
                       or remote_id = :find)
                """;
        long total = bind(jdbc.sql("select count(*)" + where), runId, filter)
                .query(Long.class)
                .single();
        List<LineView> lines = bind(
                        jdbc.sql("select " + COLUMNS + where + " order by line limit :limit offset :offset"),
                        runId,
                        filter)
                .param("limit", limit)
                .param("offset", offset)
                .query((row, number) -> view(row))
                .list();
        return new Window(total, lines);
    }

    private static JdbcClient.StatementSpec bind(JdbcClient.StatementSpec sql, long runId, Filter filter) {
        return sql.param("run", runId)
                .param("verdict", filter.verdict())
                .param("state", filter.state())
                .param("field", filter.field())
                .param("find", filter.find());
    }

    /** Unchanged records of a run, found by the ordinals it kept. */
    Window unchanged(long routeId, RoaringBitmap ordinals, int offset, int limit) {
        List<Integer> wanted = new ArrayList<>();
        for (int i = offset; i < Math.min(offset + limit, ordinals.getCardinality()); i++) {
            wanted.add(ordinals.select(i));
        }
        List<LineView> lines = jdbc.sql("""
                        select r.ordinal, r.source_key, r.label, coalesce(d.remote_id, '') as remote_id
                        from route_record r left join destination_record d on d.id = r.record_id
                        where r.route_id = ? and r.ordinal = any (?) order by r.ordinal
                        """)
                .params(routeId, wanted.toArray(Integer[]::new))
                .query((row, number) -> new LineView(
                        -row.getInt("ordinal"),
                        row.getString("source_key"),
                        row.getString("label"),
                        Verdict.UNCHANGED,
                        LineState.NONE,
                        "",
                        "",
                        row.getString("remote_id"),
                        List.of(),
                        Optional.empty(),
                        Optional.empty(),
                        ""))
                .list();
        return new Window(ordinals.getCardinality(), lines);
    }

    /** Hands over every line in order, a page at a time. */
    void each(long runId, Consumer<LineView> sink) {
        int after = 0;
        while (true) {
            List<LineView> page = jdbc.sql("select " + COLUMNS
                            + " from manifest_line where run_id = ? and line > ? order by line limit 2000")
                    .params(runId, after)
                    .query((row, number) -> view(row))
                    .list();
            if (page.isEmpty()) {
                return;
            }
            page.forEach(sink);
            after = page.get(page.size() - 1).line();
        }
    }

    private Line line(ResultSet row, ObjectDescription object) throws SQLException {
        return new Line(
                row.getInt("line"),
                row.getInt("ordinal"),
                row.getString("source_key"),
                row.getString("label"),
                Verdict.valueOf(row.getString("verdict")),
                LineState.valueOf(row.getString("state")),
                row.getString("code"),
                row.getString("reason"),
                row.getString("remote_id"),
                fields.read(row.getString("fields"), object),
                row.getLong("input_fingerprint"),
                row.getLong("sent_fingerprint"),
                Rows.optionalTime(row, "there_read_at"));
    }

    private LineView view(ResultSet row) throws SQLException {
        return new LineView(
                row.getInt("line"),
                row.getString("source_key"),
                row.getString("label"),
                Verdict.valueOf(row.getString("verdict")),
                LineState.valueOf(row.getString("state")),
                row.getString("code"),
                row.getString("reason"),
                row.getString("remote_id"),
                fields.view(row.getString("fields")),
                Rows.optionalTime(row, "there_read_at"),
                Rows.optionalTime(row, "answered_at"),
                row.getString("answer"));
    }

    private static Integer[] boxed(RoaringBitmap ordinals) {
        return java.util.Arrays.stream(ordinals.toArray()).boxed().toArray(Integer[]::new);
    }
}
