package remitto.connect.database;

import java.sql.Connection;
import java.sql.SQLException;
import java.time.Duration;
import remitto.connect.outgoing.AddressGuard;
import remitto.connect.source.SourceProblem;
import remitto.connect.source.SourceReport;
import remitto.core.dataset.ColumnType;

/** How a kind of database is signed in to, and what a session with it must be before anything is read in it. */
public interface Sessions {
    /**
     * Signs in, for reading alone.
     *
     * @param guard asked about the address
     * @throws SourceProblem if no such login is used for reading
     */
    Connection open(DatabaseSettings settings, AddressGuard guard) throws SQLException;

    /** Begins a transaction that reads, of which no statement lasts longer. */
    void begin(Connection connection, Duration timeout) throws SQLException;

    /** Makes a session as good as new: nothing that was set, locked or made in it is left. */
    void forget(Connection connection) throws SQLException;

    /** Ends what a connection runs, from any thread. */
    void cancel(Connection connection) throws SQLException;

    SourceReport report(Connection connection, DatabaseSettings settings) throws SQLException;

    /**
     * @param type of {@link java.sql.Types}
     * @param name of the type as the database calls it
     */
    ColumnType type(int type, String name);

    /** What a failure means, in words that tell no value of a row. */
    SourceProblem problem(SQLException failure, DatabaseSettings settings, Duration timeout);
}
