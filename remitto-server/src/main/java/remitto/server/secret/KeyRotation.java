package remitto.server.secret;

import java.security.SecureRandom;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;

/**
 * Seals everything again under a new key. The old one stays in the file, behind the new one, until all is sealed again; so an interrupted
 * rotation loses nothing, and is finished by rotating again.
 */
public final class KeyRotation {
    private static final int LOOKS = 6;

    private final KeyFile file;
    private final Connection connection;

    /** @param connection to Remitto's database, with nobody else signed in as its user */
    KeyRotation(KeyFile file, Connection connection) {
        this.file = file;
        this.connection = connection;
    }

    /**
     * What was sealed again.
     *
     * @param finished an earlier rotation, which was interrupted, was finished rather than another begun
     */
    record Done(long values, boolean finished) {}

    /** @throws IllegalStateException if there is no key, a server is running, or a value does not open; nothing has changed then */
    Done run() throws SQLException {
        byte[] before = file.read().orElseThrow(() -> new IllegalStateException("There is no key file to rotate."));
        refuseWhileServersRun();
        boolean interrupted = before.length > KeyRing.KEY_BYTES;
        byte[] both = interrupted ? before : withFresh(before);
        if (!interrupted) {
            file.write(both);
        }
        long values = sealAnew(new Sealing(KeyRing.of(both)));
        file.write(Arrays.copyOf(both, KeyRing.KEY_BYTES));
        return new Done(values, interrupted);
    }

    private static byte[] withFresh(byte[] before) {
        byte[] both = new byte[KeyRing.KEY_BYTES + before.length];
        byte[] fresh = new byte[KeyRing.KEY_BYTES];
        new SecureRandom().nextBytes(fresh);
        System.arraycopy(fresh, 0, both, 0, KeyRing.KEY_BYTES);
        System.arraycopy(before, 0, both, KeyRing.KEY_BYTES, before.length);
        return both;
    }

    /** A server keeps the key it started with, and would go on sealing with the old one. One that was just stopped is waited for. */
    private void refuseWhileServersRun() throws SQLException {
        for (int looks = 1; othersAreSignedIn(); looks++) {
            if (looks == LOOKS) {
                throw new IllegalStateException(
                        "A server is running: somebody else is signed in to the database as the server's user. Stop all servers first.");
            }
            try (Statement statement = connection.createStatement()) {
                statement.execute("select pg_sleep(0.3), pg_stat_clear_snapshot()");
            }
        }
    }

    private boolean othersAreSignedIn() throws SQLException {
        try (Statement statement = connection.createStatement();
                ResultSet row = statement.executeQuery("""
                        select count(*) from pg_stat_activity
                        where datname = current_database() and usename = current_user and pid <> pg_backend_pid()
                        """)) {
            row.next();
            return row.getLong(1) > 0;
        }
    }

    private record Value(String row, byte[] sealed) {}

    private long sealAnew(Sealing sealing) throws SQLException {
        connection.setAutoCommit(false);
        try {
            long values = 0;
            for (SealedColumn column : SealedColumn.ALL) {
                for (Value value : values(column)) {
                    Place place = column.place(value.row());
                    set(column, value.row(), sealing.seal(place, sealing.open(place, value.sealed())));
                    values++;
                }
            }
            connection.commit();
            return values;
        } catch (SQLException | RuntimeException e) {
            connection.rollback();
            throw e;
        }
    }

    private List<Value> values(SealedColumn column) throws SQLException {
        List<Value> values = new ArrayList<>();
        try (Statement statement = connection.createStatement();
                ResultSet rows = statement.executeQuery("select " + column.key() + "::text, " + column.column()
                        + " from " + column.table() + " order by 1 for update")) {
            while (rows.next()) {
                values.add(new Value(rows.getString(1), rows.getBytes(2)));
            }
        }
        return values;
    }

    private void set(SealedColumn column, String row, byte[] sealed) throws SQLException {
        try (PreparedStatement statement = connection.prepareStatement(
                "update " + column.table() + " set " + column.column() + " = ? where " + column.key() + "::text = ?")) {
            statement.setBytes(1, sealed);
            statement.setString(2, row);
            if (statement.executeUpdate() != 1) {
                throw new IllegalStateException("A row of " + column.table() + " went away meanwhile.");
            }
        }
    }
}
