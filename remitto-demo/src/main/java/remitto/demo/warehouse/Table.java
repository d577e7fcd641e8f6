package remitto.demo.warehouse;

import java.io.IOException;
import java.io.StringReader;
import java.sql.Connection;
import java.sql.SQLException;
import org.jspecify.annotations.Nullable;
import org.postgresql.PGConnection;

/** Rows of one table, loaded in slices by COPY so that any number of messages fits in memory. */
final class Table {
    private static final int SLICE = 4_000_000;

    private final Connection connection;
    private final String name;
    private final StringBuilder rows = new StringBuilder();

    Table(Connection connection, String name) {
        this.connection = connection;
        this.name = name;
    }

    /** @param cells null for SQL null */
    void add(@Nullable Object... cells) {
        for (int i = 0; i < cells.length; i++) {
            Object cell = cells[i];
            rows.append(i == 0 ? "" : "\t");
            if (cell == null) {
                rows.append("\\N");
            } else {
                rows.append(cell.toString()
                        .replace("\\", "\\\\")
                        .replace("\t", "\\t")
                        .replace("\n", "\\n"));
            }
        }
        rows.append('\n');
        if (rows.length() > SLICE) {
            flush();
        }
    }

    void flush() {
        try {
            connection
                    .unwrap(PGConnection.class)
                    .getCopyAPI()
                    .copyIn("copy " + name + " from stdin", new StringReader(rows.toString()));
        } catch (SQLException | IOException e) {
            throw new IllegalStateException("loading " + name + " failed", e);
        }
        rows.setLength(0);
    }
}
