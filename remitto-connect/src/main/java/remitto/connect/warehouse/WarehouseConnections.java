package remitto.connect.warehouse;

import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Duration;
import java.util.List;
import java.util.NoSuchElementException;
import org.apache.commons.pool2.BaseKeyedPooledObjectFactory;
import org.apache.commons.pool2.PooledObject;
import org.apache.commons.pool2.impl.DefaultPooledObject;
import org.apache.commons.pool2.impl.GenericKeyedObjectPool;
import org.apache.commons.pool2.impl.GenericKeyedObjectPoolConfig;
import org.postgresql.PGConnection;
import remitto.connect.outgoing.AddressGuard;
import remitto.connect.postgres.PostgresLogin;
import remitto.connect.warehouse.WarehouseProblem.Kind;

/**
 * Connections that warehouses are read through. One that a reading is over with is kept for the next of the same address and login,
 * since to sign in takes longer than most look-ups. Nothing that a reading set, locked or made in its session is left to the next:
 * the server itself is told to forget it, and a connection of which that is not certain is closed.
 */
public final class WarehouseConnections implements AutoCloseable {
    private static final Duration KEPT = Duration.ofSeconds(30);
    private static final Duration LONGEST = Duration.ofMinutes(5);
    private static final int MOST_KEPT = 8;
    /** Several that wait may be dead at once, and whoever asks tries one after the other. */
    private static final Duration TOLD_WITHIN = Duration.ofSeconds(2);
    /** SQLSTATE of a connection that failed (PostgreSQL's manual, appendix A). */
    private static final String CONNECTION_FAILURE = "08006";
    /** The server should have stopped a statement by itself before. */
    private static final Duration AFTER_THE_SERVER = Duration.ofSeconds(30);

    private static final String SESSION = "-c default_transaction_read_only=on -c standard_conforming_strings=on";

    private final GenericKeyedObjectPool<Key, Connection> pool;

    private WarehouseConnections(int mostKept) {
        GenericKeyedObjectPoolConfig<Connection> config = new GenericKeyedObjectPoolConfig<>();
        // As many as are wanted at a time: whoever reads a dataset may look something up in the same source meanwhile.
        config.setMaxTotal(-1);
        config.setMaxTotalPerKey(-1);
        config.setMaxIdlePerKey(mostKept);
        config.setTestOnBorrow(true);
        config.setMinEvictableIdleDuration(KEPT);
        config.setTimeBetweenEvictionRuns(KEPT.dividedBy(3));
        config.setJmxEnabled(false);
        pool = new GenericKeyedObjectPool<>(new Logins(), config);
    }

    /** Keeps connections for half a minute. */
    public static WarehouseConnections kept() {
        return new WarehouseConnections(MOST_KEPT);
    }

    /** Signs in for every reading. */
    public static WarehouseConnections notKept() {
        return new WarehouseConnections(0);
    }

    /** Another password, or another list of addresses that may be called, is another key: what was opened with the former is not used again. */
    private record Key(WarehouseSettings settings, String allowed) {}

    /**
     * A connection for one reading, within a read-only transaction.
     *
     * @param guard asked about the address when a connection is made
     * @param timeout of each statement
     */
    Turn turn(WarehouseSettings settings, AddressGuard guard, Duration timeout) throws SQLException {
        Key key = new Key(settings, guard.spelled());
        Connection connection = borrow(key);
        try {
            connection.setNetworkTimeout(Runnable::run, (int)
                    Math.min(Integer.MAX_VALUE, timeout.plus(AFTER_THE_SERVER).toMillis()));
            // The zone as well: the driver signs in with that of this machine, which stands above one in the options.
            execute(connection, "set local statement_timeout = " + timeout.toMillis() + "; set local time zone 'UTC'");
            return new Turn(pool, key, connection);
        } catch (SQLException | RuntimeException e) {
            discard(key, connection);
            throw e;
        }
    }

    private Connection borrow(Key key) throws SQLException {
        try {
            return pool.borrowObject(key);
        } catch (NoSuchElementException e) {
            throw new SQLException("the connection ended as soon as it was made", CONNECTION_FAILURE, e);
        } catch (SQLException | RuntimeException e) {
            throw e;
        } catch (Exception e) {
            throw new IllegalStateException("a connection could not be had", e);
        }
    }

    private void discard(Key key, Connection connection) {
        try {
            pool.invalidateObject(key, connection);
        } catch (Exception e) {
            throw new IllegalStateException("a connection could not be closed", e);
        }
    }

    private static void execute(Connection connection, String sql) throws SQLException {
        try (Statement statement = connection.createStatement()) {
            statement.execute(sql);
        }
    }

    /** Closes those that wait; those in use are closed when they are given back. */
    @Override
    public void close() {
        pool.close();
    }

    /** A reading's time with a connection. */
    static final class Turn implements AutoCloseable {
        private final GenericKeyedObjectPool<Key, Connection> pool;
        private final Key key;
        private final Connection connection;
        private boolean over;
        private boolean ended;

        private Turn(GenericKeyedObjectPool<Key, Connection> pool, Key key, Connection connection) {
            this.pool = pool;
            this.key = key;
            this.connection = connection;
        }

        Connection connection() {
            return connection;
        }

        /**
         * Ends what runs, from any thread. The server may hear of it late, so that the connection is not used again.
         *
         * @throws WarehouseProblem if the server cannot be told
         */
        synchronized void cancel() {
            if (over) {
                return;
            }
            ended = true;
            try {
                connection.unwrap(PGConnection.class).cancelQuery();
            } catch (SQLException e) {
                throw new WarehouseProblem(Kind.UNREACHABLE, "A reading cannot be ended: " + e.getMessage());
            }
        }

        @Override
        public synchronized void close() {
            over = true;
            try {
                if (ended || connection.isClosed()) {
                    pool.invalidateObject(key, connection);
                } else {
                    pool.returnObject(key, connection);
                }
            } catch (Exception e) {
                throw new IllegalStateException("a connection could not be given back", e);
            }
        }
    }

    /** Signs in, and makes a session as good as new. */
    private static final class Logins extends BaseKeyedPooledObjectFactory<Key, Connection> {
        @Override
        public Connection create(Key key) throws SQLException {
            WarehouseSettings settings = key.settings();
            Connection connection = new PostgresLogin(
                            settings.host(),
                            settings.port(),
                            settings.database(),
                            settings.user(),
                            settings.password(),
                            settings.tls().driverMode())
                    .open(AddressGuard.of(key.allowed()), AFTER_THE_SERVER, SESSION);
            try {
                refuseSuperuser(connection, settings);
                connection.setReadOnly(true);
                connection.setAutoCommit(false);
                return connection;
            } catch (SQLException | RuntimeException e) {
                connection.close();
                throw e;
            }
        }

        /** The server tells with every connection, so asking costs nothing. */
        private static void refuseSuperuser(Connection connection, WarehouseSettings settings) throws SQLException {
            if ("on".equals(connection.unwrap(PGConnection.class).getParameterStatus("is_superuser"))) {
                List<String> better = WarehouseBrowser.loginStatements(settings.user(), settings.database());
                throw new WarehouseProblem(
                        Kind.LOGIN_REFUSED,
                        "User " + settings.user()
                                + " is a superuser of the warehouse, so reading could write, run programs and read"
                                + " files there. Use a login that may only read: " + String.join(" ", better));
            }
        }

        @Override
        public PooledObject<Connection> wrap(Connection connection) {
            return new DefaultPooledObject<>(connection);
        }

        /** Whether it is still there, and not so old that its login may be another by now. */
        @Override
        public boolean validateObject(Key key, PooledObject<Connection> kept) {
            try {
                return kept.getFullDuration().compareTo(LONGEST) < 0
                        && kept.getObject().isValid((int) TOLD_WITHIN.toSeconds());
            } catch (SQLException e) {
                return false;
            }
        }

        @Override
        public void passivateObject(Key key, PooledObject<Connection> kept) throws SQLException {
            Connection connection = kept.getObject();
            // A reading may last for hours; giving its connection back may not.
            connection.setNetworkTimeout(Runnable::run, (int) AFTER_THE_SERVER.toMillis());
            connection.rollback();
            connection.setAutoCommit(true);
            execute(connection, "discard all");
            connection.setAutoCommit(false);
        }

        @Override
        public void destroyObject(Key key, PooledObject<Connection> kept) throws SQLException {
            kept.getObject().close();
        }
    }
}
