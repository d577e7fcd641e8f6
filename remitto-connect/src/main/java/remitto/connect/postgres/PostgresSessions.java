package remitto.connect.postgres;

import java.net.SocketTimeoutException;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Duration;
import java.util.List;
import java.util.Optional;
import java.util.OptionalInt;
import org.postgresql.PGConnection;
import org.postgresql.util.PSQLException;
import remitto.connect.database.DatabaseSettings;
import remitto.connect.database.Sessions;
import remitto.connect.database.Usual;
import remitto.connect.outgoing.AddressGuard;
import remitto.connect.outgoing.RefusedAddress;
import remitto.connect.source.SourceProblem;
import remitto.connect.source.SourceProblem.Kind;
import remitto.connect.source.SourceReport;
import remitto.core.dataset.ColumnType;

/** Sessions with PostgreSQL; meanings of SQLSTATE after appendix A of its manual. */
final class PostgresSessions implements Sessions<DatabaseSettings> {
    private static final String SETTINGS = "-c default_transaction_read_only=on -c standard_conforming_strings=on";
    /** The class of SQLSTATE whose words are names and places in the query's own text, and never values of rows. */
    private static final String NAMES_AND_SYNTAX = "42";
    /** The server should have stopped a statement by itself before. */
    private static final Duration AFTER_THE_SERVER = Duration.ofSeconds(30);

    @Override
    public Connection open(DatabaseSettings settings, AddressGuard guard) throws SQLException {
        Connection connection = new PostgresLogin(
                        settings.host(),
                        settings.port(),
                        settings.database(),
                        settings.user(),
                        settings.password(),
                        tls(settings.tls()))
                .open(guard, AFTER_THE_SERVER, SETTINGS);
        try {
            refuseSuperuser(connection, settings);
            return connection;
        } catch (SQLException | RuntimeException e) {
            connection.close();
            throw e;
        }
    }

    private static String tls(DatabaseSettings.Tls tls) {
        return switch (tls) {
            case OFF -> "disable";
            case REQUIRED -> "require";
            case VERIFIED -> "verify-full";
        };
    }

    /** The server tells with every connection, so asking costs nothing. */
    private static void refuseSuperuser(Connection connection, DatabaseSettings settings) throws SQLException {
        if ("on".equals(connection.unwrap(PGConnection.class).getParameterStatus("is_superuser"))) {
            List<String> better = PostgresCatalogue.loginStatements(settings.user(), settings.database());
            throw new SourceProblem(
                    Kind.LOGIN_REFUSED,
                    "User " + settings.user()
                            + " is a superuser of the database, so reading could write, run programs and read"
                            + " files there. Use a login that may only read: " + String.join(" ", better));
        }
    }

    @Override
    public void begin(Connection connection, Duration timeout) throws SQLException {
        // The zone as well: the driver signs in with that of this machine, which stands above one in the options.
        execute(connection, "set local statement_timeout = " + timeout.toMillis() + "; set local time zone 'UTC'");
    }

    @Override
    public void forget(Connection connection) throws SQLException {
        execute(connection, "discard all");
    }

    private static void execute(Connection connection, String sql) throws SQLException {
        try (Statement statement = connection.createStatement()) {
            statement.execute(sql);
        }
    }

    @Override
    public void cancel(Connection connection) throws SQLException {
        connection.unwrap(PGConnection.class).cancelQuery();
    }

    @Override
    public Optional<String> counters(Connection connection, String query) throws SQLException {
        return PostgresCounters.of(connection, query);
    }

    @Override
    public SourceReport report(Connection connection, DatabaseSettings settings) throws SQLException {
        return new PostgresCatalogue(connection).report(settings);
    }

    @Override
    public ColumnType type(int type, String name) {
        return Usual.type(type);
    }

    @Override
    public SourceProblem problem(SQLException e, DatabaseSettings settings, Duration timeout) {
        String state = Optional.ofNullable(e.getSQLState()).orElse("");
        Optional<String> refused = RefusedAddress.within(e);
        if (refused.isPresent()) {
            return new SourceProblem(Kind.ADDRESS_REFUSED, refused.get());
        }
        if (PostgresLogin.tooLarge(e)) {
            return new SourceProblem(
                    Kind.ROWS_TOO_LARGE,
                    "Some rows of this query are so large that a few thousand of them are more than 64 MB."
                            + " Leave large columns out, or cut them in the query.");
        }
        Kind kind = kind(state, e);
        String message = Usual.words(kind, settings, timeout)
                .orElseGet(() -> state.startsWith(NAMES_AND_SYNTAX)
                        ? "The database refused this query: " + message(e) + "."
                        : "The database refused this query (SQLSTATE " + state + ").");
        String words = message.contains(message(e)) ? "" : message(e);
        return new SourceProblem(kind, message, words, position(e), e);
    }

    private static OptionalInt position(SQLException e) {
        if (e instanceof PSQLException server && server.getServerErrorMessage() != null) {
            int at = server.getServerErrorMessage().getPosition();
            return at > 0 ? OptionalInt.of(at) : OptionalInt.empty();
        }
        return OptionalInt.empty();
    }

    private static Kind kind(String state, SQLException e) {
        if (state.startsWith("28")) {
            return Kind.SIGN_IN_REFUSED;
        } else if (e.getCause() instanceof SocketTimeoutException && state.startsWith("08")) {
            return Kind.TOOK_TOO_LONG;
        } else if (state.startsWith("08") || state.startsWith("57P") || state.equals("3D000")) {
            return Kind.UNREACHABLE;
        }
        return switch (state) {
            case "25006" -> Kind.WOULD_WRITE;
            case "57014" -> Kind.TOOK_TOO_LONG;
            case "42501" -> Kind.NOT_PERMITTED;
            default -> Kind.SQL_FAULT;
        };
    }

    private static String message(SQLException e) {
        if (e instanceof PSQLException server
                && server.getServerErrorMessage() != null
                && server.getServerErrorMessage().getMessage() != null) {
            return server.getServerErrorMessage().getMessage();
        }
        return Optional.ofNullable(e.getMessage()).orElse("no reason given");
    }
}
