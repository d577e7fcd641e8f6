package remitto.server.delivery;

import java.util.Collection;
import java.util.HashMap;
import java.util.Map;
import java.util.function.Consumer;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.jdbc.core.namedparam.MapSqlParameterSource;
import org.springframework.jdbc.core.namedparam.NamedParameterJdbcTemplate;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;
import remitto.connect.destination.WholeFiles.FileRow;
import remitto.core.file.FileContent;
import remitto.core.manifest.FieldDecision;
import remitto.core.manifest.FieldOutcome;
import remitto.core.manifest.Verdict;
import remitto.core.value.Value;
import remitto.server.manifest.LineFields;
import remitto.server.platform.Json;
import remitto.server.route.BoundRoute;

/** The rows of a file: what was acknowledged before, with what some lines of a run make of it. Read as a stream. */
@Component
class FileRows {
    private static final int FETCH = 2_000;

    /** Each line with the record as it is known. */
    private static final String CHANGES = """
            select m.verdict, m.fields as written, m.remote_id, coalesce(d.fields, '{}') as fields, 0 as key_high, 0 as key_low
            from manifest_line m
            left join record_state s on s.route_id = :route and s.ordinal = m.ordinal
            left join destination_record d on d.id = s.record_id
            where m.run_id = :run and m.line = any (:lines) order by m.line
            """;

    /** Each record that is known, but for those that a line removes, then those that lines add. */
    private static final String EVERYBODY = """
            with line as (select * from manifest_line where run_id = :run and line = any (:lines))
            select coalesce(m.verdict, 'UNCHANGED') as verdict, coalesce(m.fields, '[]') as written, d.remote_id, d.fields,
              s.ordinal as place, 0 as fresh, k.key_high, k.key_low
            from record_state s join destination_record d on d.id = s.record_id
            join route_record k on k.route_id = s.route_id and k.ordinal = s.ordinal
            left join line m on m.ordinal = s.ordinal and m.verdict in ('CHANGED', 'REMOVED')
            where s.route_id = :route and m.verdict is distinct from 'REMOVED'
            union all
            select m.verdict, m.fields, m.remote_id, '{}', m.line, 1, 0, 0 from line m where m.verdict = 'ADDED'
            order by fresh, place
            """;

    private final NamedParameterJdbcTemplate jdbc;
    private final TransactionTemplate transactions;
    private final LineFields fields;
    private final Json json;

    FileRows(JdbcTemplate template, TransactionTemplate transactions, Json json) {
        JdbcTemplate stream = new JdbcTemplate(java.util.Objects.requireNonNull(template.getDataSource()));
        stream.setFetchSize(FETCH);
        this.jdbc = new NamedParameterJdbcTemplate(stream);
        this.transactions = transactions;
        this.fields = new LineFields(json);
        this.json = json;
    }

    /** Whether a record that is known may still be sent, by the hash of its key. */
    @FunctionalInterface
    interface MayStay {
        boolean test(long keyHigh, long keyLow);
    }

    /**
     * The whole file as its content asks for.
     *
     * @param stay of the known records that no line is about
     */
    void each(
            FileContent content,
            BoundRoute route,
            long runId,
            Collection<Integer> lines,
            MayStay stay,
            Consumer<FileRow> sink) {
        each(content instanceof FileContent.Changes ? CHANGES : EVERYBODY, route, runId, lines, stay, sink);
    }

    private void each(
            String sql, BoundRoute route, long runId, Collection<Integer> lines, MayStay stay, Consumer<FileRow> sink) {
        var described = LineFields.byName(route.described().description());
        String key = route.route().spec().match().get(0);
        transactions.executeWithoutResult(status -> jdbc.query(
                sql,
                new MapSqlParameterSource()
                        .addValue("route", route.routeId())
                        .addValue("run", runId)
                        .addValue("lines", lines.toArray(Integer[]::new)),
                row -> {
                    Verdict verdict = Verdict.valueOf(row.getString("verdict"));
                    if (verdict == Verdict.UNCHANGED && !stay.test(row.getLong("key_high"), row.getLong("key_low"))) {
                        return;
                    }
                    Map<String, Value> values = new HashMap<>();
                    json.tree(row.getString("fields"))
                            .properties()
                            .forEach(entry -> values.put(
                                    entry.getKey(),
                                    fields.read(
                                            entry.getValue(),
                                            entry.getKey(),
                                            route.described().description())));
                    if (verdict != Verdict.REMOVED) {
                        for (FieldDecision field : fields.read(row.getString("written"), described)) {
                            if (field.outcome() == FieldOutcome.WRITTEN) {
                                values.put(field.field(), field.fresh());
                            }
                        }
                    }
                    values.putIfAbsent(key, new Value.Text(row.getString("remote_id")));
                    sink.accept(new FileRow(verdict, values));
                }));
    }
}
