package remitto.server.harness;

import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;

/** A table that a route writes to, and that answers nothing for a while: whoever asks it waits. */
public final class SilentTool {
    private final TestServer server;
    private final String table;

    /** @param table with its schema */
    public SilentTool(TestServer server, String table) {
        this.server = server;
        this.table = table;
    }

    /** What happens while it is silent. */
    public interface Meanwhile {
        void happens() throws SQLException;
    }

    /** Answers again afterwards. */
    public void during(Meanwhile meanwhile) throws SQLException {
        try (Connection blocking = server.cluster().superuser(server.warehouse().database());
                Statement lock = blocking.createStatement()) {
            blocking.setAutoCommit(false);
            lock.execute("lock table " + table + " in access exclusive mode");
            meanwhile.happens();
            blocking.rollback();
        }
    }

    /** Waits until somebody waits for it. */
    public void awaitAsked() {
        Awaited.until("the tool is asked", () -> server.cluster()
                .text(
                        "postgres",
                        "select count(*) > 0 from pg_stat_activity where wait_event_type = 'Lock' and datname = '"
                                + server.warehouse().database() + "'")
                .equals("t"));
    }
}
