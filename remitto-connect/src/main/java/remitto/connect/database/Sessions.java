package remitto.connect.database;

import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.ResultSetMetaData;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Duration;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import remitto.connect.outgoing.AddressGuard;
import remitto.connect.source.SourceProblem;
import remitto.connect.source.SourceReport;
import remitto.core.dataset.ColumnType;

/**
 * How a kind of database is signed in to, and what a session with it must be before anything is read in it.
 *
 * @param <S> settings that say where it is and who signs in; equal ones are the same login
 */
public interface Sessions<S> {
    /**
     * Signs in, for reading alone.
     *
     * @param guard asked about the address
     * @throws SourceProblem if no such login is used for reading
     */
    Connection open(S settings, AddressGuard guard) throws SQLException;

    /** Begins a transaction that reads, of which no statement lasts longer. */
    void begin(Connection connection, Duration timeout) throws SQLException;

    /** After how long without a word from the server a connection is given up. */
    default void giveUpAfter(Connection connection, Duration silence) throws SQLException {
        connection.setNetworkTimeout(Runnable::run, (int) Math.min(Integer.MAX_VALUE, silence.toMillis()));
    }

    /** Bounds a statement where the session itself cannot. */
    default void limit(Statement statement, Duration time) throws SQLException {}

    /** How many rows the driver takes in at a time, which are in memory together. */
    default int fetch() {
        return 2_000;
    }

    /** How the cells of a result are read as the texts that the database writes. */
    default Cells cells(ResultSetMetaData data) throws SQLException {
        return ResultSet::getString;
    }

    /** Makes a session as good as new: nothing that was set, locked or made in it is left. */
    void forget(Connection connection) throws SQLException;

    /** Ends what a connection runs, from any thread. */
    void cancel(Connection connection) throws SQLException;

    /**
     * What the server has counted of writes to the tables that a query reads, in any spelling that differs once something was written;
     * empty where it does not tell, or not of all of them.
     *
     * @param query checked by itself
     */
    default Optional<String> counters(Connection connection, String query) throws SQLException {
        return Optional.empty();
    }

    SourceReport report(Connection connection, S settings) throws SQLException;

    /**
     * @param type of {@link java.sql.Types}
     * @param name of the type as the database calls it
     */
    ColumnType type(int type, String name);

    /** Reads cells of the row that a result stands at. */
    @FunctionalInterface
    interface Cells {
        /** @param column from 1 */
        @Nullable
        String of(ResultSet rows, int column) throws SQLException;
    }

    /** What a failure means, in words that tell no value of a row. */
    SourceProblem problem(SQLException failure, S settings, Duration timeout);
}
