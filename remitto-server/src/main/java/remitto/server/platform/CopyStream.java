package remitto.server.platform;

import java.nio.charset.StandardCharsets;
import java.sql.Connection;
import java.sql.SQLException;
import java.util.Objects;
import org.postgresql.PGConnection;
import org.postgresql.copy.CopyIn;
import org.springframework.dao.DataAccessException;
import org.springframework.jdbc.UncategorizedSQLException;
import org.springframework.jdbc.core.JdbcTemplate;

/**
 * Rows that go over to PostgreSQL while they are made, in one COPY of the transaction that it is begun in. Nothing else is asked of that
 * transaction until it has ended or is closed. Used by one thread.
 */
public final class CopyStream implements AutoCloseable {
    private static final int PART = 1 << 16;

    private final JdbcTemplate template;
    private final CopyIn copy;
    private final CopyText text = new CopyText();

    /** @param into table and columns as {@code copy} takes them */
    public CopyStream(JdbcTemplate template, String into) {
        this.template = template;
        this.copy = Objects.requireNonNull(template.execute((Connection connection) ->
                connection.unwrap(PGConnection.class).getCopyAPI().copyIn("copy " + into + " from stdin")));
    }

    /** Where the next row is written. */
    public CopyText row() {
        if (text.length() > PART) {
            send();
        }
        return text;
    }

    private void send() {
        byte[] bytes = text.taken().getBytes(StandardCharsets.UTF_8);
        try {
            copy.writeToCopy(bytes, 0, bytes.length);
        } catch (SQLException e) {
            throw translated(e);
        }
    }

    /** Sends what is left; the rows are there then. */
    public void end() {
        send();
        try {
            copy.endCopy();
        } catch (SQLException e) {
            throw translated(e);
        }
    }

    private DataAccessException translated(SQLException e) {
        DataAccessException translated = template.getExceptionTranslator().translate("copy", null, e);
        return translated == null ? new UncategorizedSQLException("copy", null, e) : translated;
    }

    /** Gives up what has not ended, so that the transaction can be rolled back. */
    @Override
    public void close() {
        if (copy.isActive()) {
            try {
                copy.cancelCopy();
            } catch (SQLException e) {
                throw translated(e);
            }
        }
    }
}
