package remitto.server.manifest;

import java.time.Instant;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.roaringbitmap.RoaringBitmap;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import remitto.core.cause.Cause;
import remitto.core.cause.CauseKind;
import remitto.core.destination.Field;
import remitto.core.destination.ObjectDescription;
import remitto.core.manifest.LineState;
import remitto.core.manifest.ReachLadder;
import remitto.core.manifest.Verdict;
import remitto.server.platform.CopyText;
import remitto.server.platform.Json;
import remitto.server.platform.Rows;

/** The lines of manifests: written down, counted and read again. */
@Component
public class Lines {
    private final JdbcTemplate template;
    private final JdbcClient jdbc;
    private final LineFields fields;
    private final LineRows rows;
    private final Json json;

    Lines(JdbcTemplate template, JdbcClient jdbc, Json json) {
        this.template = template;
        this.jdbc = jdbc;
        this.fields = new LineFields(json);
        this.rows = new LineRows(fields);
        this.json = json;
    }

    public void add(long runId, Collection<Line> lines) {
        CopyText copy = new CopyText();
        for (Line line : lines) {
            copy.number(runId)
                    .number(line.number())
                    .number(line.ordinal())
                    .text(line.key())
                    .text(line.label())
                    .text(line.verdict().name())
                    .text(line.cause().spelled())
                    .text(line.reason())
                    .text(line.remoteId())
                    .text(fields.write(line.fields()))
                    .number(line.inputFingerprint())
                    .number(line.sentFingerprint())
                    .time(line.thereReadAt())
                    .text(written(line.origins().cells()))
                    .text(written(line.origins().beyond()))
                    .text(line.goes() ? fields.write(line.written()) : "{}")
                    .text(line.goes() ? LineFields.marks(line.fields()) : "{}")
                    .cell(recheckAt(line))
                    .text(line.again() ? "t" : "f")
                    .endRow();
        }
        copy.load(
                template,
                "manifest_line (run_id, line, ordinal, source_key, label, verdict, code, reason, remote_id, fields,"
                        + " input_fingerprint, sent_fingerprint, there_read_at, inputs, beyond, sends, marks, recheck_at, again)");
    }

    private static Optional<String> recheckAt(Line line) {
        return line.fields().stream()
                .flatMap(field -> field.until().stream())
                .min(Instant::compareTo)
                .map(Rows::timeText);
    }

    private String written(Map<String, ?> origins) {
        return origins.isEmpty() ? "{}" : json.write(origins);
    }

    /** Holds every line of records whose key more than one row has. */
    public void holdDoubled(long runId, RoaringBitmap ordinals) {
        jdbc.sql("""
                        update manifest_line set verdict = 'HELD', code = ?,
                          reason = 'More than one row has the key ' || source_key, input_fingerprint = 0, sent_fingerprint = 0
                        where run_id = ? and ordinal = any (?)
                        """)
                .params(CauseKind.DOUBLED_KEY.code(), runId, boxed(ordinals))
                .update();
    }

    /** Source keys of some records of a route, by ordinal. */
    public Map<Integer, String> keys(long routeId, RoaringBitmap ordinals) {
        Map<Integer, String> keys = new HashMap<>();
        jdbc.sql("select ordinal, source_key from route_record where route_id = ? and ordinal = any (?)")
                .params(routeId, boxed(ordinals))
                .query(row -> {
                    keys.put(row.getInt("ordinal"), row.getString("source_key"));
                });
        return keys;
    }

    public Map<Verdict, Long> countByVerdict(long runId) {
        Map<Verdict, Long> counts = new HashMap<>();
        jdbc.sql("select verdict, count(*) as lines from manifest_line where run_id = ? group by verdict")
                .param(runId)
                .query(row -> {
                    counts.put(Verdict.valueOf(row.getString("verdict")), row.getLong("lines"));
                });
        return counts;
    }

    /** All lines, those that are alike together; a refusal by what was answered. */
    public List<ReachLadder.Tally> tallies(long runId) {
        return jdbc.sql("select m.verdict, m.code, " + LineRows.STATE
                        + " as state, case when o.state in ('REFUSED', 'FORBIDDEN') then o.answer"
                        + " else m.reason end as reason, count(*) as people" + LineRows.JOINED
                        + " where m.run_id = ? group by 1, 2, 3, 4 order by 5 desc, 4")
                .param(runId)
                .query((row, number) -> new ReachLadder.Tally(
                        Verdict.valueOf(row.getString("verdict")),
                        Cause.read(row.getString("code")),
                        LineState.valueOf(row.getString("state")),
                        row.getString("reason"),
                        row.getLong("people")))
                .list();
    }

    /** Per field, in how many lines that go it is written and cleared, and in how many it is held, as JSON. */
    public String fieldCounts(long runId) {
        return jdbc.sql("""
                        select coalesce(jsonb_object_agg(field,
                          jsonb_build_object('written', written, 'held', held, 'cleared', cleared)), '{}')
                        from (
                          select f ->> 'field' as field,
                                 count(*) filter (where f ->> 'outcome' = 'WRITTEN') as written,
                                 count(*) filter (where f ->> 'outcome' = 'HELD') as held,
                                 count(*) filter (where f ->> 'outcome' = 'WRITTEN' and verdict = 'CHANGED'
                                   and f -> 'fresh' = 'null' and coalesce(f -> 'old', 'null') <> 'null') as cleared
                          from manifest_line, jsonb_array_elements(fields) as f
                          where run_id = ? and verdict in ('ADDED', 'CHANGED', 'HELD')
                            and (f ->> 'outcome' = 'WRITTEN' and verdict <> 'HELD' or f ->> 'outcome' = 'HELD')
                          group by 1) as counted
                        """).param(runId).query(String.class).single();
    }

    public List<Line> byNumber(long runId, Collection<Integer> numbers, ObjectDescription object) {
        Map<String, Field> described = LineFields.byName(object);
        return jdbc.sql("select " + LineRows.COLUMNS
                        + " from manifest_line m where m.run_id = ? and m.line = any (?) order by m.line")
                .params(runId, numbers.toArray(Integer[]::new))
                .query((row, number) -> rows.line(row, described))
                .list();
    }

    /** Lines of a run that took effect, behind a line, in order; those of people who were erased are no more. */
    public List<Line> acknowledged(long runId, int after, int limit, ObjectDescription object) {
        Map<String, Field> described = LineFields.byName(object);
        return jdbc.sql(
                        "select " + LineRows.COLUMNS.replace("m.remote_id", "o.remote_id") + LineRows.JOINED
                                + " where m.run_id = ? and o.state = 'ACKNOWLEDGED' and m.source_key <> '' and m.line > ? order by m.line limit ?")
                .params(runId, after, limit)
                .query((row, number) -> rows.line(row, described))
                .list();
    }

    /** Lets the planner know what a large manifest brought, rather than wait for it to find out. */
    public void settled(long runId) {
        jdbc.sql("analyze manifest_line_" + LinePartitions.partition(runId)).update();
        jdbc.sql("analyze route_record, record_state").update();
    }

    public void drop(long runId) {
        jdbc.sql("delete from manifest_line where run_id = ?").param(runId).update();
    }

    private static Integer[] boxed(RoaringBitmap ordinals) {
        return java.util.Arrays.stream(ordinals.toArray()).boxed().toArray(Integer[]::new);
    }
}
