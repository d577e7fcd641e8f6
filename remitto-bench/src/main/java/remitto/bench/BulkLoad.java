package remitto.bench;

import java.nio.charset.StandardCharsets;
import java.sql.Connection;
import java.sql.SQLException;
import org.postgresql.PGConnection;
import org.postgresql.copy.CopyIn;

/** One COPY, fed a row of text at a time. */
final class BulkLoad {
    private final CopyIn copy;

    BulkLoad(Connection connection, String into) throws SQLException {
        copy = connection.unwrap(PGConnection.class).getCopyAPI().copyIn("copy " + into + " from stdin");
    }

    void row(String text) {
        byte[] bytes = text.getBytes(StandardCharsets.UTF_8);
        try {
            copy.writeToCopy(bytes, 0, bytes.length);
        } catch (SQLException e) {
            throw new IllegalStateException(e);
        }
    }

    void finish() throws SQLException {
        copy.endCopy();
    }
}
