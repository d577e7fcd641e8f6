package remitto.server.run;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.Collection;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Consumer;
import java.util.function.IntPredicate;
import org.roaringbitmap.RoaringBitmap;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import remitto.core.delivery.LineState;
import remitto.core.destination.Field;
import remitto.core.destination.ObjectDescription;
import remitto.core.manifest.FieldDecision;
import remitto.core.manifest.ReachLadder;
import remitto.core.manifest.UndoJudge;
import remitto.core.manifest.Verdict;
import remitto.server.platform.CopyText;
import remitto.server.platform.Json;
import remitto.server.platform.Rows;

/** The lines of manifests. */
@Component
class Lines {
    private static final String COLUMNS =
            "m.line, m.ordinal, m.source_key, m.label, m.verdict, m.code, m.reason, m.remote_id, m.fields,"
                    + " m.input_fingerprint, m.sent_fingerprint, m.there_read_at";

    /** A line's state: what came of it, else whether it is under way, else whether it is still to go. */
    private static final String STATE = """
            coalesce(o.state, case
              when m.verdict not in ('ADDED', 'CHANGED', 'REMOVED') then 'NONE'
              when (m.run_id, m.line) in (select c.run_id, unnest(c.lines) from open_call c) then 'SENDING'
              when r.state in ('CANCELLED', 'DISCARDED') then 'CANCELLED'
              else 'PLANNED' end)
            """;

    private static final String VIEW =
            COLUMNS.replace("m.remote_id", "coalesce(nullif(o.remote_id, ''), m.remote_id) as remote_id")
                    + ", o.answered_at, coalesce(o.answer, '') as answer, " + STATE + " as state";

    private static final String JOINS =
            " join run r on r.id = m.run_id left join line_outcome o on o.run_id = m.run_id and o.line = m.line";

    private static final String JOINED = " from manifest_line m" + JOINS;

    /** Lines that stand together are read in one go, with so many times as many at most: to find each alone costs more. */
    private static final int MOST_PASSED_OVER = 4;

    private final JdbcTemplate template;
    private final JdbcClient jdbc;
    private final LineFields fields;
    private final Json json;
    private final Clock clock;

    Lines(JdbcTemplate template, JdbcClient jdbc, Json json, Clock clock) {
        this.template = template;
        this.jdbc = jdbc;
        this.fields = new LineFields(json);
        this.json = json;
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
                    .text(line.code())
                    .text(line.reason())
                    .text(line.remoteId())
                    .text(fields.write(line.fields()))
                    .number(line.inputFingerprint())
                    .number(line.sentFingerprint())
                    .time(line.thereReadAt())
                    .text(written(line.origins().cells()))
                    .text(written(line.origins().beyond()))
                    .text(line.goes() ? fields.write(Outcomes.written(line)) : "{}")
                    .text(line.goes() ? LineFields.marks(line.fields()) : "{}")
                    .cell(recheckAt(line))
                    .endRow();
        }
        copy.load(
                template,
                "manifest_line (run_id, line, ordinal, source_key, label, verdict, code, reason, remote_id, fields,"
                        + " input_fingerprint, sent_fingerprint, there_read_at, inputs, beyond, sends, marks, recheck_at)");
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
    void holdDoubled(long runId, RoaringBitmap ordinals) {
        jdbc.sql("""
                        update manifest_line set verdict = 'HELD', code = 'doubled-key',
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

    /** All lines, those that are alike together; a refusal by what was answered. */
    List<ReachLadder.Tally> tallies(long runId) {
        return jdbc.sql("select m.verdict, m.code, " + STATE
                        + " as state, case when o.state in ('REFUSED', 'FORBIDDEN') then o.answer"
                        + " else m.reason end as reason, count(*) as people" + JOINED
                        + " where m.run_id = ? group by 1, 2, 3, 4 order by 5 desc, 4")
                .param(runId)
                .query((row, number) -> new ReachLadder.Tally(
                        Verdict.valueOf(row.getString("verdict")),
                        row.getString("code"),
                        LineState.valueOf(row.getString("state")),
                        row.getString("reason"),
                        row.getLong("people")))
                .list();
    }

    /** Per field, in how many lines that go it is written and cleared, and in how many it is held, as JSON. */
    String fieldCounts(long runId) {
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

    /** Numbers of the lines of a verdict behind a line, in order, whatever came of them. */
    List<Integer> ofVerdict(long runId, Verdict verdict, int after, int limit) {
        return jdbc.sql(
                        "select line from manifest_line where run_id = ? and verdict = ? and line > ? order by line limit ?")
                .params(runId, verdict.name(), after, limit)
                .query(Integer.class)
                .list();
    }

    /** Numbers of the lines, from one to another, that have an outcome. */
    Set<Integer> settled(long runId, int first, int last) {
        return new HashSet<>(jdbc.sql("select line from line_outcome where run_id = ? and line between ? and ?")
                .params(runId, first, last)
                .query(Integer.class)
                .list());
    }

    /** Numbers of the lines that calls carry. */
    Set<Integer> underWay(long runId) {
        return new HashSet<>(jdbc.sql("select unnest(lines) from open_call where run_id = ?")
                .param(runId)
                .query(Integer.class)
                .list());
    }

    List<Line> byNumber(long runId, Collection<Integer> numbers, ObjectDescription object) {
        Map<String, Field> described = LineFields.byName(object);
        return jdbc.sql("select " + COLUMNS
                        + " from manifest_line m where m.run_id = ? and m.line = any (?) order by m.line")
                .params(runId, numbers.toArray(Integer[]::new))
                .query((row, number) -> line(row, described))
                .list();
    }

    /**
     * Lines as a call needs them: what is written, but not what was there before, unless a line takes something back.
     *
     * @param numbers in ascending order
     */
    List<Line> toSend(long runId, List<Integer> numbers, ObjectDescription object) {
        if (numbers.isEmpty()) {
            return List.of();
        }
        int first = numbers.get(0);
        int last = numbers.get(numbers.size() - 1);
        if (last - first >= MOST_PASSED_OVER * numbers.size()) {
            return toSend(
                    runId,
                    "m.line = any (?)",
                    List.of((Object) numbers.toArray(Integer[]::new)),
                    number -> true,
                    object);
        }
        BitSet wanted = new BitSet();
        numbers.forEach(number -> wanted.set(number - first));
        return toSend(
                runId, "m.line between ? and ?", List.of(first, last), number -> wanted.get(number - first), object);
    }

    private List<Line> toSend(
            long runId, String which, List<Object> numbers, IntPredicate wanted, ObjectDescription object) {
        Map<String, Field> described = LineFields.byName(object);
        List<Line> found = new ArrayList<>();
        jdbc.sql("select "
                        + COLUMNS.replace(
                                "m.fields", "case when m.code = ? then m.fields::text else m.sends::text end as fields")
                        + " from manifest_line m where m.run_id = ? and " + which + " order by m.line")
                .param(UndoJudge.UNDO)
                .param(runId)
                .params(numbers)
                .query(row -> {
                    if (wanted.test(row.getInt("line"))) {
                        found.add(
                                row.getString("code").equals(UndoJudge.UNDO)
                                        ? line(row, described)
                                        : line(row, fields.kept(row.getString("fields"), described)));
                    }
                });
        return found;
    }

    /** Lines of a run that took effect, behind a line, in order; those of people who were erased are no more. */
    List<Line> acknowledged(long runId, int after, int limit, ObjectDescription object) {
        Map<String, Field> described = LineFields.byName(object);
        return jdbc.sql(
                        "select " + COLUMNS.replace("m.remote_id", "o.remote_id") + JOINED
                                + " where m.run_id = ? and o.state = 'ACKNOWLEDGED' and m.source_key <> '' and m.line > ? order by m.line limit ?")
                .params(runId, after, limit)
                .query((row, number) -> line(row, described))
                .list();
    }

    /** Lets the planner know what a large manifest brought, rather than wait for it to find out. */
    void settled(long runId) {
        jdbc.sql("analyze manifest_line_" + Runs.partition(runId)).update();
        jdbc.sql("analyze route_record, record_state").update();
    }

    /** How many lines that go have no outcome yet. */
    long unsettled(long runId) {
        return jdbc.sql("""
                        select (select count(*) from manifest_line
                                where run_id = :run and verdict in ('ADDED', 'CHANGED', 'REMOVED'))
                             - (select count(*) from line_outcome where run_id = :run)
                        """).param("run", runId).query(Long.class).single();
    }

    /** Keeps planned lines from going, all but those of some verdicts and numbers. */
    long keepBack(long runId, Collection<String> verdicts, Collection<Integer> without, String why) {
        return jdbc.sql("""
                        insert into line_outcome (run_id, line, state, remote_id, answer, answered_at)
                        select run_id, line, 'CANCELLED', '', :why, :now from manifest_line
                        where run_id = :run and verdict in ('ADDED', 'CHANGED', 'REMOVED')
                          and (verdict <> all (:verdicts) or line = any (:without))
                        on conflict do nothing
                        """)
                .param("run", runId)
                .param("verdicts", verdicts.toArray(String[]::new))
                .param("without", without.toArray(Integer[]::new))
                .param("why", why)
                .param("now", Rows.time(clock.instant()))
                .update();
    }

    void drop(long runId) {
        jdbc.sql("delete from manifest_line where run_id = ?").param(runId).update();
    }

    /** What lines are wanted; blank means any. The verdict MOVES stands for all that go or are held. */
    record Filter(String verdict, String state, String field, String code, String find) {}

    record Window(long total, List<LineView> lines) {}

    /** Only what the filter asks for is looked at, since a manifest may have millions of lines. */
    Window window(long runId, Filter filter, int offset, int limit) {
        String chosen = chosen(filter);
        long total = bind(jdbc.sql("select count(*)" + chosen), runId, filter)
                .query(Long.class)
                .single();
        List<LineView> lines = bind(
                        jdbc.sql("select " + VIEW + " from (select m.*" + chosen
                                + " order by m.line limit :limit offset :offset) as m" + JOINS + " order by m.line"),
                        runId,
                        filter)
                .param("limit", limit)
                .param("offset", offset)
                .query((row, number) -> view(row))
                .list();
        return new Window(total, lines);
    }

    private static String chosen(Filter filter) {
        StringBuilder sql = new StringBuilder(" from manifest_line m");
        if (!filter.state().isEmpty() || !filter.find().isEmpty()) {
            sql.append(JOINS);
        }
        sql.append(" where m.run_id = :run");
        if (filter.verdict().equals("MOVES")) {
            sql.append(" and m.verdict not in ('LEFT_OUT', 'UNCHANGED')");
        } else if (!filter.verdict().isEmpty()) {
            sql.append(" and m.verdict = :verdict");
        }
        if (!filter.code().isEmpty()) {
            sql.append(" and m.code = :code");
        }
        if (!filter.field().isEmpty()) {
            sql.append("""
                     and (m.fields @> jsonb_build_array(jsonb_build_object('field', :field, 'outcome', 'WRITTEN'))
                      or m.fields @> jsonb_build_array(jsonb_build_object('field', :field, 'outcome', 'HELD')))
                    """);
        }
        if (!filter.find().isEmpty()) {
            sql.append("""
                     and (m.source_key ilike '%' || :find || '%' or m.label ilike '%' || :find || '%'
                      or m.remote_id = :find or o.remote_id = :find)
                    """);
        }
        if (!filter.state().isEmpty()) {
            sql.append(" and ").append(STATE).append(" = :state");
        }
        return sql.toString();
    }

    private static JdbcClient.StatementSpec bind(JdbcClient.StatementSpec sql, long runId, Filter filter) {
        return sql.param("run", runId)
                .param("verdict", filter.verdict())
                .param("field", filter.field())
                .param("code", filter.code())
                .param("find", filter.find())
                .param("state", filter.state());
    }

    /** Records of a run that have no line, found by the ordinals it kept. */
    Window quiet(long routeId, Verdict verdict, RoaringBitmap ordinals, int offset, int limit) {
        List<Integer> wanted = new ArrayList<>();
        for (int i = offset; i < Math.min(offset + limit, ordinals.getCardinality()); i++) {
            wanted.add(ordinals.select(i));
        }
        List<LineView> lines = jdbc.sql("""
                        select r.ordinal, r.source_key, r.label, coalesce(s.stance_reason, '') as stance_reason,
                          coalesce(d.remote_id, '') as remote_id
                        from route_record r left join record_state s on s.route_id = r.route_id and s.ordinal = r.ordinal
                        left join destination_record d on d.id = s.record_id
                        where r.route_id = ? and r.ordinal = any (?) order by r.ordinal
                        """)
                .params(routeId, wanted.toArray(Integer[]::new))
                .query((row, number) -> new LineView(
                        -row.getInt("ordinal"),
                        row.getString("source_key"),
                        row.getString("label"),
                        verdict,
                        LineState.NONE,
                        "",
                        verdict == Verdict.LEFT_OUT ? row.getString("stance_reason") : "",
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
            List<LineView> page = jdbc.sql(
                            "select " + VIEW + JOINED + " where m.run_id = ? and m.line > ? order by m.line limit 2000")
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

    private Line line(ResultSet row, Map<String, Field> described) throws SQLException {
        return line(row, fields.read(row.getString("fields"), described));
    }

    private static Line line(ResultSet row, List<FieldDecision> decisions) throws SQLException {
        return new Line(
                row.getInt("line"),
                row.getInt("ordinal"),
                row.getString("source_key"),
                row.getString("label"),
                Verdict.valueOf(row.getString("verdict")),
                row.getString("code"),
                row.getString("reason"),
                row.getString("remote_id"),
                decisions,
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
