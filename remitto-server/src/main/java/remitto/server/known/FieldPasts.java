package remitto.server.known;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.springframework.jdbc.core.simple.JdbcClient;
import remitto.core.manifest.FieldPast;
import remitto.server.platform.Json;
import remitto.server.platform.Rows;
import remitto.server.route.BoundRoute;
import tools.jackson.databind.JsonNode;

/** When fields of records were last written by us, and by which marks; for those fields whose rules ask. */
final class FieldPasts {
    private final JdbcClient jdbc;
    private final Json json;
    private final List<Wanted> wanted = new ArrayList<>();

    FieldPasts(JdbcClient jdbc, Json json) {
        this.jdbc = jdbc;
        this.json = json;
    }

    private record Place(long run, int line) {}

    private record Wanted(int ordinal, String field, Place place, Optional<Long> mark) {}

    /** @param row of known state: fields, writers, marks and the writer of the record as a whole */
    void add(BoundRoute route, ResultSet row) throws SQLException {
        JsonNode known = json.tree(row.getString("fields"));
        JsonNode writers = json.tree(row.getString("writers"));
        JsonNode marks = json.tree(row.getString("marks"));
        Place whole = new Place(row.getLong("writer_run"), row.getInt("writer_line"));
        for (String field : route.route().fieldsWithPast()) {
            if (known.has(field)) {
                JsonNode writer = writers.path(field);
                wanted.add(new Wanted(
                        row.getInt("ordinal"),
                        field,
                        writer.isArray()
                                ? new Place(
                                        writer.get(1).asLong(), writer.get(2).asInt())
                                : whole,
                        marks.has(field) ? Optional.of(marks.get(field).asLong()) : Optional.empty()));
            }
        }
    }

    /** What is known, by ordinal and field. */
    Map<Integer, Map<String, FieldPast>> times() {
        Map<Integer, Map<String, FieldPast>> pasts = new HashMap<>();
        if (wanted.isEmpty()) {
            return pasts;
        }
        Map<Place, Instant> at = new HashMap<>();
        jdbc.sql("""
                        select o.run_id, o.line, o.answered_at
                        from unnest(:runs::bigint[], :lines::int[]) as w (run_id, line)
                        join line_outcome o on o.run_id = w.run_id and o.line = w.line and o.state = 'ACKNOWLEDGED'
                        """)
                .param("runs", wanted.stream().map(one -> one.place().run()).toArray(Long[]::new))
                .param("lines", wanted.stream().map(one -> one.place().line()).toArray(Integer[]::new))
                .query(row -> {
                    at.put(new Place(row.getLong("run_id"), row.getInt("line")), Rows.time(row, "answered_at"));
                });
        for (Wanted one : wanted) {
            pasts.computeIfAbsent(one.ordinal(), fresh -> new HashMap<>())
                    .put(
                            one.field(),
                            new FieldPast(Optional.ofNullable(at.get(one.place())), one.mark(), Optional.empty()));
        }
        return pasts;
    }
}
