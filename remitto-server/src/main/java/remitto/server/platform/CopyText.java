package remitto.server.platform;

import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.sql.SQLException;
import java.time.Instant;
import java.util.Optional;
import org.postgresql.PGConnection;
import org.springframework.jdbc.core.JdbcTemplate;

/** Rows in the text format of PostgreSQL's COPY, for loading many at once. */
public final class CopyText {
    private final StringBuilder out = new StringBuilder();
    private boolean first = true;

    public CopyText text(String value) {
        gap();
        for (int i = 0; i < value.length(); i++) {
            char c = value.charAt(i);
            switch (c) {
                case '\\' -> out.append("\\\\");
                case '\t' -> out.append("\\t");
                case '\n' -> out.append("\\n");
                case '\r' -> out.append("\\r");
                // PostgreSQL stores no NUL in text.
                case 0 -> out.append('\uFFFD');
                default -> out.append(c);
            }
        }
        return this;
    }

    public CopyText number(long value) {
        gap();
        out.append(value);
        return this;
    }

    public CopyText truth(boolean value) {
        gap();
        out.append(value ? 't' : 'f');
        return this;
    }

    public CopyText time(Optional<Instant> value) {
        gap();
        out.append(value.map(Instant::toString).orElse("\\N"));
        return this;
    }

    /** A cell that may have no value. */
    public CopyText cell(Optional<String> value) {
        return value.map(this::text).orElseGet(this::none);
    }

    /** A cell without a value. */
    public CopyText none() {
        gap();
        out.append("\\N");
        return this;
    }

    public void endRow() {
        out.append('\n');
        first = true;
    }

    int length() {
        return out.length();
    }

    /** What has been written so far, which is not in it any more. */
    String taken() {
        String taken = out.toString();
        out.setLength(0);
        return taken;
    }

    public void load(JdbcTemplate jdbc, String into) {
        if (out.isEmpty()) {
            return;
        }
        byte[] bytes = out.toString().getBytes(StandardCharsets.UTF_8);
        jdbc.execute((java.sql.Connection connection) -> {
            try (InputStream in = new java.io.ByteArrayInputStream(bytes)) {
                return connection.unwrap(PGConnection.class).getCopyAPI().copyIn("copy " + into + " from stdin", in);
            } catch (IOException e) {
                throw new SQLException(e);
            }
        });
    }

    private void gap() {
        if (!first) {
            out.append('\t');
        }
        first = false;
    }
}
