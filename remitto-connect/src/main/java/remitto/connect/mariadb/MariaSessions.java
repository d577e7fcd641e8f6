package remitto.connect.mariadb;

import java.net.SocketTimeoutException;
import java.sql.Connection;
import java.sql.ResultSetMetaData;
import java.sql.SQLException;
import java.sql.Statement;
import java.sql.Types;
import java.time.Duration;
import java.util.Locale;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.Properties;
import javax.net.ssl.SSLException;
import org.mariadb.jdbc.Configuration;
import org.mariadb.jdbc.Driver;
import remitto.connect.database.DatabaseSettings;
import remitto.connect.database.Sessions;
import remitto.connect.database.Usual;
import remitto.connect.outgoing.AddressGuard;
import remitto.connect.outgoing.RefusedAddress;
import remitto.connect.source.SourceProblem;
import remitto.connect.source.SourceProblem.Kind;
import remitto.connect.source.SourceReport;
import remitto.core.dataset.ColumnType;

/** Sessions with MariaDB; meanings of error numbers after the MariaDB documentation, "MariaDB Error Codes". */
final class MariaSessions implements Sessions<DatabaseSettings> {
    private static final int CONNECT_MILLIS = 8_000;
    private static final Duration AFTER_THE_SERVER = Duration.ofSeconds(30);
    /** Ways of signing in that show the password to nobody who only answers at the address. */
    private static final String CAREFUL_SIGN_INS = "mysql_native_password,client_ed25519,parsec,caching_sha2_password";
    /** How texts are read, whatever the server's default is; {@link MariaSpelling} relies on it. */
    private static final String MODE =
            "STRICT_TRANS_TABLES,ERROR_FOR_DIVISION_BY_ZERO,NO_AUTO_CREATE_USER,NO_ENGINE_SUBSTITUTION";
    /** The class of SQLSTATE whose words are names and places in the query's own text, and never values of rows. */
    private static final String NAMES_AND_SYNTAX = "42";

    @Override
    public Connection open(DatabaseSettings settings, AddressGuard guard) throws SQLException {
        Connection connection = connected(settings, guard);
        try {
            refuseOthers(connection, settings);
            return connection;
        } catch (SQLException | RuntimeException e) {
            connection.close();
            throw e;
        }
    }

    private static Connection connected(DatabaseSettings settings, AddressGuard guard) throws SQLException {
        try {
            return Driver.connect(configuration(settings, guard));
        } catch (SQLException e) {
            if (e.getCause() instanceof SocketTimeoutException) {
                // Nothing was asked yet: whatever listens there does not greet as a MariaDB server does.
                throw new SQLException("no greeting within " + CONNECT_MILLIS + " ms", "08001", e);
            }
            throw e;
        }
    }

    /** Every part is handed over as a value of its own, never as a part of an address. */
    private static Configuration configuration(DatabaseSettings settings, AddressGuard guard) throws SQLException {
        Properties ours = new Properties();
        ours.setProperty(MariaSockets.ALLOWED, guard.spelled());
        return Configuration.parse("jdbc:mariadb://address.example/", ours).toBuilder()
                .addresses(org.mariadb.jdbc.HostAddress.from(settings.host(), settings.port()))
                .database(settings.database())
                .user(settings.user())
                .password(settings.password())
                .sslMode(tls(settings.tls()))
                .restrictedAuth(CAREFUL_SIGN_INS)
                .socketFactory(MariaSockets.class.getName())
                .connectTimeout(CONNECT_MILLIS)
                .socketTimeout((int) AFTER_THE_SERVER.toMillis())
                // A server may ask for files of this machine, point elsewhere, or be asked for a key over an open line.
                .allowLocalInfile(false)
                .permitRedirect(false)
                .allowPublicKeyRetrieval(false)
                .allowMultiQueries(false)
                // Text transfer keeps one spelling per type, which fingerprints rely on.
                .useServerPrepStmts(false)
                .yearIsDateType(false)
                .useResetConnection(true)
                .connectionAttributes("program_name:Remitto")
                .build();
    }

    private static String tls(DatabaseSettings.Tls tls) {
        return switch (tls) {
            case OFF -> "disable";
            case REQUIRED -> "trust";
            case VERIFIED -> "verify-full";
        };
    }

    private static void refuseOthers(Connection connection, DatabaseSettings settings) throws SQLException {
        String version = MariaCatalogue.text(connection, "select version()");
        if (!version.toLowerCase(Locale.ROOT).contains("mariadb")) {
            throw new SourceProblem(
                    Kind.NOT_OFFERED,
                    "The server at " + settings.host() + ":" + settings.port() + " says that it is version " + version
                            + ", which is not MariaDB. What it does with what is asked of MariaDB is not known.");
        }
        Optional<String> above = new MariaCatalogue(connection).aboveReading();
        if (above.isPresent()) {
            throw new SourceProblem(
                    Kind.LOGIN_REFUSED,
                    "User " + settings.user() + " has the right " + above.get()
                            + " on the whole server, so reading could write and read files there, or change the server."
                            + " Use a login that may only read: "
                            + String.join(" ", MariaCatalogue.grants(settings)));
        }
    }

    @Override
    public void begin(Connection connection, Duration timeout) throws SQLException {
        double seconds = timeout.toMillis() / 1000.0;
        execute(
                connection,
                "set session max_statement_time = " + seconds + ", time_zone = '+00:00', sql_mode = '" + MODE
                        + "', character_set_client = utf8mb4, character_set_results = utf8mb4,"
                        + " collation_connection = utf8mb4_nopad_bin");
        execute(connection, "start transaction read only");
    }

    /** Row by row: the driver bounds what it takes in by rows alone, and a row may be as large as a packet of the server. */
    @Override
    public int fetch() {
        return 1;
    }

    /** The driver writes moments with all six digits of a second; the server with as many as the column has. */
    @Override
    public Cells cells(ResultSetMetaData data) throws SQLException {
        int[] digits = new int[data.getColumnCount() + 1];
        for (int i = 1; i < digits.length; i++) {
            digits[i] = data.getColumnType(i) == Types.TIMESTAMP ? data.getScale(i) : 6;
        }
        return (rows, column) -> {
            String cell = rows.getString(column);
            int point = cell == null || digits[column] >= 6 ? -1 : cell.indexOf('.');
            return cell == null || point < 0
                    ? cell
                    : cell.substring(
                            0, Math.min(cell.length(), digits[column] == 0 ? point : point + 1 + digits[column]));
        };
    }

    @Override
    public void forget(Connection connection) throws SQLException {
        connection.unwrap(org.mariadb.jdbc.Connection.class).reset();
    }

    private static void execute(Connection connection, String sql) throws SQLException {
        try (Statement statement = connection.createStatement()) {
            statement.execute(sql);
        }
    }

    @Override
    public void cancel(Connection connection) throws SQLException {
        connection.unwrap(org.mariadb.jdbc.Connection.class).cancelCurrentQuery();
    }

    @Override
    public SourceReport report(Connection connection, DatabaseSettings settings) throws SQLException {
        return new MariaCatalogue(connection).report(settings);
    }

    @Override
    public ColumnType type(int type, String name) {
        // A BOOLEAN of MariaDB is a number of one digit; a BIT of several is neither.
        return type == Types.BIT && name.startsWith("BIT") ? ColumnType.TEXT : Usual.type(type);
    }

    @Override
    public SourceProblem problem(SQLException e, DatabaseSettings settings, Duration timeout) {
        Optional<String> refused = RefusedAddress.within(e);
        if (refused.isPresent()) {
            return new SourceProblem(Kind.ADDRESS_REFUSED, refused.get());
        }
        String state = Optional.ofNullable(e.getSQLState()).orElse("");
        Kind kind = kind(state, e);
        String said =
                Optional.ofNullable(e.getMessage()).orElse("no reason given").replaceFirst("^\\(conn=\\d+\\) ", "");
        String message = special(kind, e, said, settings)
                .or(() -> Usual.words(kind, settings, timeout))
                .orElseGet(() -> state.startsWith(NAMES_AND_SYNTAX)
                        ? "The database refused this query: " + said + "."
                        : "The database refused this query (SQLSTATE " + state + ", error " + e.getErrorCode() + ").");
        return new SourceProblem(kind, message, message.contains(said) ? "" : said, OptionalInt.empty(), e);
    }

    private static Optional<String> special(Kind kind, SQLException e, String said, DatabaseSettings settings) {
        if (kind == Kind.SIGN_IN_REFUSED && said.contains("restrictedAuth")) {
            return Optional.of(
                    "The server asks for the password in a way that shows it to whoever answers there. Let user "
                            + settings.user() + " be identified via ed25519 or mysql_native_password.");
        }
        return kind == Kind.UNREACHABLE && isDistrusted(e)
                ? Optional.of("The certificate of the database at " + settings
                        + " cannot be verified: it is for another name, or nobody known vouches for it.")
                : Optional.empty();
    }

    private static boolean isDistrusted(Throwable failure) {
        for (Throwable cause = failure; cause != null; cause = cause.getCause()) {
            // The driver tells of a certificate that nobody vouches for in words alone.
            if (cause instanceof SSLException
                    || String.valueOf(cause.getMessage()).contains("certificate")) {
                return true;
            }
        }
        return false;
    }

    private static Kind kind(String state, SQLException e) {
        return switch (e.getErrorCode()) {
            case 1044, 1142, 1143, 1227, 1370, 1356 -> Kind.NOT_PERMITTED;
            case 1049, 1040 -> Kind.UNREACHABLE;
            case 1792, 1290 -> Kind.WOULD_WRITE;
            case 1969, 1317, 3024 -> Kind.TOOK_TOO_LONG;
            default -> {
                if (state.startsWith("28") || String.valueOf(e.getMessage()).contains("restrictedAuth")) {
                    yield Kind.SIGN_IN_REFUSED;
                }
                if (e.getCause() instanceof SocketTimeoutException && state.startsWith("08")) {
                    yield Kind.TOOK_TOO_LONG;
                }
                yield state.startsWith("08") ? Kind.UNREACHABLE : Kind.SQL_FAULT;
            }
        };
    }
}
