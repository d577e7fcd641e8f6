package remitto.server.manifest;

import java.time.Clock;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.Collection;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.IntPredicate;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import remitto.core.cause.CauseKind;
import remitto.core.destination.Field;
import remitto.core.destination.ObjectDescription;
import remitto.core.manifest.Verdict;
import remitto.server.platform.Json;
import remitto.server.platform.Rows;

/** The lines of manifests that are to be sent. */
@Component
public class PlannedLines {
    /** Lines that stand together are read in one go, with so many times as many at most: to find each alone costs more. */
    private static final int MOST_PASSED_OVER = 4;

    private final JdbcClient jdbc;
    private final LineFields fields;
    private final LineRows rows;
    private final Clock clock;

    PlannedLines(JdbcClient jdbc, Json json, Clock clock) {
        this.jdbc = jdbc;
        this.fields = new LineFields(json);
        this.rows = new LineRows(fields);
        this.clock = clock;
    }

    /** Numbers of the lines of a verdict behind a line, in order, whatever came of them. */
    public List<Integer> ofVerdict(long runId, Verdict verdict, int after, int limit) {
        return jdbc.sql(
                        "select line from manifest_line where run_id = ? and verdict = ? and line > ? order by line limit ?")
                .params(runId, verdict.name(), after, limit)
                .query(Integer.class)
                .list();
    }

    /** Numbers of the lines, from one to another, that have an outcome. */
    public Set<Integer> settled(long runId, int first, int last) {
        return new HashSet<>(jdbc.sql("select line from line_outcome where run_id = ? and line between ? and ?")
                .params(runId, first, last)
                .query(Integer.class)
                .list());
    }

    /** Numbers of the lines that calls carry. */
    public Set<Integer> underWay(long runId) {
        return new HashSet<>(jdbc.sql("select unnest(lines) from open_call where run_id = ?")
                .param(runId)
                .query(Integer.class)
                .list());
    }

    /**
     * Lines as a call needs them: what is written, but not what was there before, unless a line takes something back.
     *
     * @param numbers in ascending order
     */
    public List<Line> toSend(long runId, List<Integer> numbers, ObjectDescription object) {
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
                        + LineRows.COLUMNS.replace(
                                "m.fields", "case when m.code = ? then m.fields::text else m.sends::text end as fields")
                        + " from manifest_line m where m.run_id = ? and " + which + " order by m.line")
                .param(CauseKind.UNDO.code())
                .param(runId)
                .params(numbers)
                .query(row -> {
                    if (wanted.test(row.getInt("line"))) {
                        found.add(
                                row.getString("code").equals(CauseKind.UNDO.code())
                                        ? rows.line(row, described)
                                        : LineRows.line(row, fields.kept(row.getString("fields"), described)));
                    }
                });
        return found;
    }

    /** How many lines that go have no outcome yet. */
    public long unsettled(long runId) {
        return jdbc.sql("""
                        select (select count(*) from manifest_line
                                where run_id = :run and verdict in ('ADDED', 'CHANGED', 'REMOVED'))
                             - (select count(*) from line_outcome where run_id = :run)
                        """).param("run", runId).query(Long.class).single();
    }

    /** Keeps planned lines from going, all but those of some verdicts and numbers. */
    public long keepBack(long runId, Collection<String> verdicts, Collection<Integer> without, String why) {
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
}
