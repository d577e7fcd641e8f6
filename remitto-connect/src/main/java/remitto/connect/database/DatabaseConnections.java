package remitto.connect.database;

import java.sql.Connection;
import java.sql.SQLException;
import java.time.Duration;
import java.util.NoSuchElementException;
import org.apache.commons.pool2.BaseKeyedPooledObjectFactory;
import org.apache.commons.pool2.PooledObject;
import org.apache.commons.pool2.impl.DefaultPooledObject;
import org.apache.commons.pool2.impl.GenericKeyedObjectPool;
import org.apache.commons.pool2.impl.GenericKeyedObjectPoolConfig;
import remitto.connect.outgoing.AddressGuard;
import remitto.connect.source.SourceProblem;
import remitto.connect.source.SourceProblem.Kind;

/**
 * Connections that databases of one kind are read through, bounded for each address and login. One that a reading is over with is kept
 * for the next, since to sign in takes longer than most look-ups. Nothing that a reading set, locked or made in its session is left to the next:
 * the server itself is told to forget it, and a connection of which that is not certain is closed.
 *
 * @param <S> what they are opened with
 */
public final class DatabaseConnections<S> implements AutoCloseable {
    private static final Duration KEPT = Duration.ofSeconds(30);
    private static final Duration LONGEST = Duration.ofMinutes(5);
    private static final int MOST_KEPT = 8;
    private static final int MOST_AT_A_TIME = 40;
    /** Several that wait may be dead at once, and whoever asks tries one after the other. */
    private static final Duration TOLD_WITHIN = Duration.ofSeconds(2);
    /** SQLSTATE of a connection that failed (PostgreSQL's manual, appendix A). */
    private static final String CONNECTION_FAILURE = "08006";
    /** The server should have stopped a statement by itself before. */
    private static final Duration AFTER_THE_SERVER = Duration.ofSeconds(30);

    private final Dialect<S> dialect;
    private final GenericKeyedObjectPool<Key<S>, Connection> pool;

    private DatabaseConnections(Dialect<S> dialect, int mostKept) {
        this.dialect = dialect;
        GenericKeyedObjectPoolConfig<Connection> config = new GenericKeyedObjectPoolConfig<>();
        // Whoever reads a dataset may look something up in the same source meanwhile: many enough for that.
        config.setMaxTotal(-1);
        config.setMaxTotalPerKey(MOST_AT_A_TIME);
        config.setMaxIdlePerKey(mostKept);
        config.setTestOnBorrow(true);
        config.setMinEvictableIdleDuration(KEPT);
        config.setTimeBetweenEvictionRuns(KEPT.dividedBy(3));
        config.setJmxEnabled(false);
        pool = new GenericKeyedObjectPool<>(new Logins<>(dialect.sessions()), config);
    }

    /** Keeps connections for half a minute. */
    public static <S> DatabaseConnections<S> kept(Dialect<S> dialect) {
        return new DatabaseConnections<>(dialect, MOST_KEPT);
    }

    /** Signs in for every reading. */
    public static <S> DatabaseConnections<S> notKept(Dialect<S> dialect) {
        return new DatabaseConnections<>(dialect, 0);
    }

    /** What they are connections to. */
    Dialect<S> dialect() {
        return dialect;
    }

    /** Another password, or another list of addresses that may be called, is another key: what was opened with the former is not used again. */
    private record Key<S>(S settings, String allowed) {}

    /**
     * A connection for one reading, within a read-only transaction.
     *
     * @param guard asked about the address when a connection is made
     * @param timeout of each statement
     */
    Turn<S> turn(S settings, AddressGuard guard, Duration timeout) throws SQLException {
        Key<S> key = new Key<>(settings, guard.spelled());
        Connection connection = borrow(key, timeout);
        try {
            dialect.sessions().giveUpAfter(connection, timeout.plus(AFTER_THE_SERVER));
            dialect.sessions().begin(connection, timeout);
            return new Turn<>(dialect.sessions(), pool, key, connection);
        } catch (SQLException | RuntimeException e) {
            discard(key, connection);
            throw e;
        }
    }

    /** Waits for as long as the reading may take: those who look on for seconds do not fail a run that has hours. */
    private Connection borrow(Key<S> key, Duration timeout) throws SQLException {
        try {
            return pool.borrowObject(key, timeout.toMillis());
        } catch (NoSuchElementException e) {
            if (pool.getNumActive(key) >= MOST_AT_A_TIME) {
                throw new SourceProblem(
                        Kind.BUSY,
                        MOST_AT_A_TIME + " readings of " + key.settings() + " are under way, and no turn came within "
                                + timeout.toSeconds() + " s. Try again when they are over.");
            }
            throw new SQLException("the connection ended as soon as it was made", CONNECTION_FAILURE, e);
        } catch (SQLException | RuntimeException e) {
            throw e;
        } catch (Exception e) {
            throw new IllegalStateException("a connection could not be had", e);
        }
    }

    private void discard(Key<S> key, Connection connection) {
        try {
            pool.invalidateObject(key, connection);
        } catch (Exception e) {
            throw new IllegalStateException("a connection could not be closed", e);
        }
    }

    /** Closes those that wait; those in use are closed when they are given back. */
    @Override
    public void close() {
        pool.close();
    }

    /** A reading's time with a connection. */
    static final class Turn<S> implements AutoCloseable {
        private final Sessions<S> sessions;
        private final GenericKeyedObjectPool<Key<S>, Connection> pool;
        private final Key<S> key;
        private final Connection connection;
        private boolean over;
        private boolean ended;

        private Turn(
                Sessions<S> sessions,
                GenericKeyedObjectPool<Key<S>, Connection> pool,
                Key<S> key,
                Connection connection) {
            this.sessions = sessions;
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
         * @throws SourceProblem if the server cannot be told
         */
        synchronized void cancel() {
            if (over) {
                return;
            }
            ended = true;
            try {
                sessions.cancel(connection);
            } catch (SQLException e) {
                throw new SourceProblem(Kind.UNREACHABLE, "A reading cannot be ended: " + e.getMessage());
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
    private static final class Logins<S> extends BaseKeyedPooledObjectFactory<Key<S>, Connection> {
        private final Sessions<S> sessions;

        Logins(Sessions<S> sessions) {
            this.sessions = sessions;
        }

        @Override
        public Connection create(Key<S> key) throws SQLException {
            Connection connection = sessions.open(key.settings(), AddressGuard.of(key.allowed()));
            try {
                connection.setReadOnly(true);
                connection.setAutoCommit(false);
                return connection;
            } catch (SQLException | RuntimeException e) {
                connection.close();
                throw e;
            }
        }

        @Override
        public PooledObject<Connection> wrap(Connection connection) {
            return new DefaultPooledObject<>(connection);
        }

        /** Whether it is still there, and not so old that its login may be another by now. */
        @Override
        public boolean validateObject(Key<S> key, PooledObject<Connection> kept) {
            try {
                return kept.getFullDuration().compareTo(LONGEST) < 0
                        && kept.getObject().isValid((int) TOLD_WITHIN.toSeconds());
            } catch (SQLException e) {
                return false;
            }
        }

        @Override
        public void passivateObject(Key<S> key, PooledObject<Connection> kept) throws SQLException {
            Connection connection = kept.getObject();
            // A reading may last for hours; giving its connection back may not.
            sessions.giveUpAfter(connection, AFTER_THE_SERVER);
            connection.rollback();
            connection.setAutoCommit(true);
            sessions.forget(connection);
            connection.setAutoCommit(false);
        }

        @Override
        public void destroyObject(Key<S> key, PooledObject<Connection> kept) throws SQLException {
            kept.getObject().close();
        }
    }
}
