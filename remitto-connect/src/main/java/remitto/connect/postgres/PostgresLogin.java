package remitto.connect.postgres;

import java.sql.Connection;
import java.sql.SQLException;
import java.time.Duration;
import org.postgresql.PGProperty;
import org.postgresql.ds.PGSimpleDataSource;
import remitto.connect.outgoing.AddressGuard;
import remitto.connect.outgoing.GuardedSockets;

/**
 * Who signs in where. Every part is handed to the driver as a setting of its own, never as a part of an address.
 *
 * @param sslMode disable, require or verify-full
 */
public record PostgresLogin(String host, int port, String database, String user, String password, String sslMode) {
    private static final int CONNECT_SECONDS = 8;
    /** Bytes of rows that are taken in at a time; a fetch of more ends its query, not the process. */
    private static final String MOST_AT_A_TIME = "64000000";

    /** Whether a query ended since its rows were larger than what is taken in at a time. */
    public static boolean tooLarge(SQLException problem) {
        return String.valueOf(problem.getMessage()).contains("maxResultBuffer");
    }

    /**
     * @param guard asked about the address that the connection is made to
     * @param silence after which an unanswered connection is given up
     * @param options settings of the server for this session, as {@code -c name=value}
     */
    public Connection open(AddressGuard guard, Duration silence, String options) throws SQLException {
        PGSimpleDataSource source = new PGSimpleDataSource();
        source.setServerNames(new String[] {host.contains(":") ? "[" + host + "]" : host});
        source.setPortNumbers(new int[] {port});
        source.setDatabaseName(database);
        source.setUser(user);
        source.setPassword(password);
        source.setSslMode(sslMode);
        source.setProperty(PGProperty.AUTHENTICATION_PLUGIN_CLASS_NAME, CarefulPassword.class.getName());
        source.setSocketFactory(GuardedSockets.class.getName());
        source.setSocketFactoryArg(guard.spelled());
        source.setProperty(PGProperty.MAX_RESULT_BUFFER, MOST_AT_A_TIME);
        source.setConnectTimeout(CONNECT_SECONDS);
        source.setLoginTimeout(CONNECT_SECONDS);
        source.setSocketTimeout((int) Math.min(Integer.MAX_VALUE / 1000, silence.toSeconds()));
        source.setApplicationName("Remitto");
        // Text transfer keeps one spelling per type, which fingerprints rely on.
        source.setBinaryTransfer(false);
        source.setOptions(options);
        return source.getConnection();
    }
}
