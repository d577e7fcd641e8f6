package remitto.server.manifest;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.List;
import java.util.Map;
import remitto.core.cause.Cause;
import remitto.core.destination.Field;
import remitto.core.manifest.FieldDecision;
import remitto.core.manifest.Verdict;
import remitto.server.platform.Rows;

/** The rows of lines, and how they are read. */
final class LineRows {
    static final String COLUMNS =
            "m.line, m.ordinal, m.source_key, m.label, m.verdict, m.code, m.reason, m.remote_id, m.fields,"
                    + " m.input_fingerprint, m.sent_fingerprint, m.there_read_at";

    /** A line's state: what came of it, else whether it is under way, else whether it is still to go. */
    static final String STATE = """
            coalesce(o.state, case
              when m.verdict not in ('ADDED', 'CHANGED', 'REMOVED') then 'NONE'
              when (m.run_id, m.line) in (select c.run_id, unnest(c.lines) from open_call c) then 'SENDING'
              when r.state in ('CANCELLED', 'DISCARDED') then 'CANCELLED'
              else 'PLANNED' end)
            """;

    static final String JOINS =
            " join run r on r.id = m.run_id left join line_outcome o on o.run_id = m.run_id and o.line = m.line";

    static final String JOINED = " from manifest_line m" + JOINS;

    private final LineFields fields;

    LineRows(LineFields fields) {
        this.fields = fields;
    }

    Line line(ResultSet row, Map<String, Field> described) throws SQLException {
        return line(row, fields.read(row.getString("fields"), described));
    }

    static Line line(ResultSet row, List<FieldDecision> decisions) throws SQLException {
        return new Line(
                row.getInt("line"),
                row.getInt("ordinal"),
                row.getString("source_key"),
                row.getString("label"),
                Verdict.valueOf(row.getString("verdict")),
                Cause.read(row.getString("code")),
                row.getString("reason"),
                row.getString("remote_id"),
                decisions,
                row.getLong("input_fingerprint"),
                row.getLong("sent_fingerprint"),
                Rows.optionalTime(row, "there_read_at"));
    }
}
