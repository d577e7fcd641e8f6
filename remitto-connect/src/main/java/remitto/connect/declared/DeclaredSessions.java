package remitto.connect.declared;

import java.lang.ref.WeakReference;
import java.net.UnknownHostException;
import java.sql.Connection;
import java.sql.DatabaseMetaData;
import java.sql.Driver;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.SQLFeatureNotSupportedException;
import java.sql.SQLTimeoutException;
import java.sql.Statement;
import java.time.Duration;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.Properties;
import java.util.Set;
import java.util.TreeMap;
import java.util.WeakHashMap;
import remitto.connect.database.DatabaseSettings;
import remitto.connect.database.Sessions;
import remitto.connect.database.Usual;
import remitto.connect.outgoing.AddressGuard;
import remitto.connect.outgoing.RefusedAddress;
import remitto.connect.source.SourceProblem;
import remitto.connect.source.SourceProblem.Kind;
import remitto.connect.source.SourceReport;
import remitto.connect.source.SourceReport.Schema;
import remitto.connect.source.SourceReport.Table;
import remitto.connect.source.SourceReport.TableColumn;
import remitto.core.dataset.ColumnType;

/** Sessions by a driver that nothing is known of but what JDBC 4.2 says, and what a declaration adds. */
final class DeclaredSessions implements Sessions<DatabaseSettings> {
    private static final Set<String> SYSTEM = Set.of("information_schema", "sys", "system", "pg_catalog", "mysql");

    private final Declaration declared;
    private final Driver driver;
    /** What runs on a connection, so that it can be ended from another thread; a statement holds its connection, so that neither is held here. */
    private final Map<Connection, WeakReference<Statement>> running = new WeakHashMap<>();

    DeclaredSessions(Declaration declared, Driver driver) {
        this.declared = declared;
        this.driver = driver;
    }

    /**
     * A driver connects by itself, so that the address is looked at before: a name that means another address a moment later is not
     * found out. Where that matters, give an address instead of a name.
     */
    @Override
    public Connection open(DatabaseSettings settings, AddressGuard guard) throws SQLException {
        try {
            guard.resolve(settings.host(), settings.port());
        } catch (UnknownHostException e) {
            throw new SQLException(e.getMessage(), "08001", e);
        }
        String template = Optional.ofNullable(
                        declared.driver().address().get(settings.tls().name().toLowerCase(Locale.ROOT)))
                .orElseThrow(() -> new SourceProblem(
                        Kind.NOT_OFFERED,
                        "The dialect of " + declared.title() + " declares no connection with TLS "
                                + settings.tls().name().toLowerCase(Locale.ROOT) + "; it has "
                                + String.join(
                                        ", ", new TreeMap<>(declared.driver().address()).keySet()) + "."));
        // What else stands behind a name of a database would be settings to some drivers.
        if (!settings.database().matches("[\\p{L}\\p{Nd}_.~ -]+")) {
            throw new SourceProblem(
                    Kind.NOT_OFFERED,
                    "The name of the database has letters, digits, and . _ ~ - only, since the driver of "
                            + declared.title() + " takes it as part of an address.");
        }
        Properties properties = new Properties();
        properties.putAll(declared.driver().settings());
        properties.setProperty("user", settings.user());
        properties.setProperty("password", settings.password());
        String host = settings.host().contains(":") ? "[" + settings.host() + "]" : settings.host();
        String address = template.replace("{host}", host)
                .replace("{port}", Integer.toString(settings.port()))
                .replace("{database}", settings.database());
        Connection connection = driver.connect(address, properties);
        if (connection == null) {
            throw new SourceProblem(
                    Kind.NOT_OFFERED,
                    "The driver of " + declared.title() + " does not take addresses as the dialect declares them.");
        }
        return connection;
    }

    @Override
    public void begin(Connection connection, Duration timeout) throws SQLException {
        for (String statement : declared.session().begin()) {
            execute(connection, statement);
        }
    }

    @Override
    public void giveUpAfter(Connection connection, Duration silence) throws SQLException {
        try {
            Sessions.super.giveUpAfter(connection, silence);
        } catch (SQLFeatureNotSupportedException e) {
            // Not every driver can; its statements are bounded all the same.
            return;
        }
    }

    @Override
    public void limit(Statement statement, Duration time) throws SQLException {
        statement.setQueryTimeout((int) Math.max(1, Math.min(Integer.MAX_VALUE, time.toSeconds())));
        synchronized (running) {
            running.put(statement.getConnection(), new WeakReference<>(statement));
        }
    }

    @Override
    public void forget(Connection connection) throws SQLException {
        synchronized (running) {
            running.remove(connection);
        }
        if (declared.session().forget().isEmpty()) {
            connection.close();
            return;
        }
        for (String statement : declared.session().forget().get()) {
            execute(connection, statement);
        }
    }

    private static void execute(Connection connection, String sql) throws SQLException {
        try (Statement statement = connection.createStatement()) {
            statement.execute(sql);
        }
    }

    @Override
    public void cancel(Connection connection) throws SQLException {
        Optional<Statement> now;
        synchronized (running) {
            now = Optional.ofNullable(running.get(connection)).map(WeakReference::get);
        }
        if (now.isPresent()) {
            now.get().cancel();
        }
    }

    /** What the driver tells of the catalogue. Of rights JDBC tells too little to say that a login can do no more than read. */
    @Override
    public SourceReport report(Connection connection, DatabaseSettings settings) throws SQLException {
        DatabaseMetaData data = connection.getMetaData();
        record Found(String schema, String name) {}
        Map<Found, List<TableColumn>> tables = new LinkedHashMap<>();
        try (ResultSet rows = data.getTables(connection.getCatalog(), null, "%", null)) {
            while (rows.next()) {
                String schema =
                        Optional.ofNullable(rows.getString("TABLE_SCHEM")).orElse("");
                String type = Optional.ofNullable(rows.getString("TABLE_TYPE")).orElse("");
                if (!SYSTEM.contains(schema.toLowerCase(Locale.ROOT)) && !type.contains("SYSTEM")) {
                    tables.put(new Found(schema, rows.getString("TABLE_NAME")), new ArrayList<>());
                }
            }
        }
        try (ResultSet rows = data.getColumns(connection.getCatalog(), null, "%", "%")) {
            while (rows.next()) {
                Found table = new Found(
                        Optional.ofNullable(rows.getString("TABLE_SCHEM")).orElse(""), rows.getString("TABLE_NAME"));
                if (tables.containsKey(table)) {
                    tables.get(table).add(new TableColumn(rows.getString("COLUMN_NAME"), rows.getString("TYPE_NAME")));
                }
            }
        }
        Map<String, List<Table>> bySchema = new TreeMap<>();
        tables.forEach((table, columns) -> bySchema.computeIfAbsent(table.schema(), key -> new ArrayList<>())
                .add(new Table(table.name(), -1, true, columns)));
        return new SourceReport(
                data.getDatabaseProductName() + " " + data.getDatabaseProductVersion(),
                Optional.ofNullable(data.getUserName()).orElse(settings.user()),
                settings.tls() != DatabaseSettings.Tls.OFF,
                bySchema.entrySet().stream()
                        .map(one -> new Schema(one.getKey(), true, one.getValue()))
                        .toList(),
                List.of("is of a database whose rights cannot be looked at, so it may be able to write"),
                List.of());
    }

    @Override
    public ColumnType type(int type, String name) {
        return Optional.ofNullable(declared.meanings().types().get(name)).orElseGet(() -> Usual.type(type));
    }

    @Override
    public SourceProblem problem(SQLException e, DatabaseSettings settings, Duration timeout) {
        Optional<String> refused = RefusedAddress.within(e);
        if (refused.isPresent()) {
            return new SourceProblem(Kind.ADDRESS_REFUSED, refused.get());
        }
        String state = Optional.ofNullable(e.getSQLState()).orElse("");
        Kind kind = e instanceof SQLTimeoutException ? Kind.TOOK_TOO_LONG : kind(state);
        String message = Usual.words(kind, settings, timeout)
                .orElseGet(() ->
                        "The database refused this query (SQLSTATE " + state + ", error " + e.getErrorCode() + ").");
        return new SourceProblem(kind, message, String.valueOf(e.getMessage()), OptionalInt.empty(), e);
    }

    /** By the longest beginning that is declared; else by the classes of ISO/IEC 9075-2, 24.1. */
    private Kind kind(String state) {
        for (int length = state.length(); length > 0; length--) {
            Optional<Kind> declaredKind =
                    Optional.ofNullable(declared.meanings().problems().get(state.substring(0, length)));
            if (declaredKind.isPresent()) {
                return declaredKind.get();
            }
        }
        return switch (state.length() < 2 ? "" : state.substring(0, 2)) {
            case "28" -> Kind.SIGN_IN_REFUSED;
            case "08" -> Kind.UNREACHABLE;
            case "25" -> Kind.WOULD_WRITE;
            default -> Kind.SQL_FAULT;
        };
    }
}
