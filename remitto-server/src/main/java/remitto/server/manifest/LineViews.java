package remitto.server.manifest;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.Consumer;
import org.roaringbitmap.RoaringBitmap;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import remitto.core.manifest.LineState;
import remitto.core.manifest.Verdict;
import remitto.server.platform.Json;
import remitto.server.platform.Rows;

/** The lines of manifests as people look at them. */
@Component
public class LineViews {
    private static final String VIEW =
            LineRows.COLUMNS.replace("m.remote_id", "coalesce(nullif(o.remote_id, ''), m.remote_id) as remote_id")
                    + ", o.answered_at, coalesce(o.answer, '') as answer, " + LineRows.STATE + " as state";

    private final JdbcClient jdbc;
    private final LineFields fields;

    LineViews(JdbcClient jdbc, Json json) {
        this.jdbc = jdbc;
        this.fields = new LineFields(json);
    }

    /** What lines are wanted; blank means any. The verdict MOVES stands for all that go or are held. */
    public record Filter(String verdict, String state, String field, String code, String find) {}

    public record Window(long total, List<LineView> lines) {}

    /** Only what the filter asks for is looked at, since a manifest may have millions of lines. */
    public Window window(long runId, Filter filter, int offset, int limit) {
        String chosen = chosen(filter);
        long total = bind(jdbc.sql("select count(*)" + chosen), runId, filter)
                .query(Long.class)
                .single();
        List<LineView> lines = bind(
                        jdbc.sql("select " + VIEW + " from (select m.*" + chosen
                                + " order by m.line limit :limit offset :offset) as m" + LineRows.JOINS
                                + " order by m.line"),
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
            sql.append(LineRows.JOINS);
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
            sql.append(" and ").append(LineRows.STATE).append(" = :state");
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
    public Window quiet(long routeId, Verdict verdict, RoaringBitmap ordinals, int offset, int limit) {
        List<Integer> wanted = new ArrayList<>();
        for (int i = offset; i < Math.min(offset + limit, ordinals.getCardinality()); i++) {
            wanted.add(ordinals.select(i));
        }
        List<LineView> lines = jdbc.sql("""
                        select r.ordinal, r.source_key, r.label, coalesce(s.state_reason, '') as state_reason,
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
                        verdict == Verdict.LEFT_OUT ? row.getString("state_reason") : "",
                        row.getString("remote_id"),
                        List.of(),
                        Optional.empty(),
                        Optional.empty(),
                        ""))
                .list();
        return new Window(ordinals.getCardinality(), lines);
    }

    /** Hands over every line in order, a page at a time. */
    public void each(long runId, Consumer<LineView> sink) {
        int after = 0;
        while (true) {
            List<LineView> page = jdbc.sql("select " + VIEW + LineRows.JOINED
                            + " where m.run_id = ? and m.line > ? order by m.line limit 2000")
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
}
