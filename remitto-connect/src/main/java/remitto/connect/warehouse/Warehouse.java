package remitto.connect.warehouse;

import java.net.SocketTimeoutException;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.ResultSetMetaData;
import java.sql.SQLException;
import java.sql.Types;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.OptionalInt;
import org.jspecify.annotations.Nullable;
import org.postgresql.util.PSQLException;
import remitto.connect.outgoing.AddressGuard;
import remitto.connect.outgoing.RefusedAddress;
import remitto.connect.postgres.PostgresLogin;
import remitto.connect.warehouse.WarehouseProblem.Kind;
import remitto.core.dataset.ColumnType;

/**
 * Reads a warehouse. Every statement runs in a read-only transaction with a time limit; what somebody
 * wrote is looked at by itself first ({@link SqlText}), so that nothing can step out of that transaction.
 */
public final class Warehouse {
    private static final int FETCH = 2_000;
    /** The class of SQLSTATE whose words are names and places in the query's own text, and never values of rows. */
    private static final String NAMES_AND_SYNTAX = "42";

    private final WarehouseSettings settings;
    private final AddressGuard guard;
    private final WarehouseConnections connections;
    private final CheckedTexts checked;
    private final Readers readers;

    /** Tells whoever may end a reading before its end. */
    @FunctionalInterface
    public interface Readers {
        /** @param cancel ends it, from any thread @return closed when the reading is over */
        Over begin(Runnable cancel);
    }

    /** Closed when a reading is over. */
    public interface Over extends AutoCloseable {
        @Override
        void close();
    }

    /** Read to the end, whatever happens, each time through a connection of its own. */
    public Warehouse(WarehouseSettings settings, AddressGuard guard) {
        this(settings, guard, WarehouseConnections.notKept(), new CheckedTexts(), cancel -> () -> {});
    }

    /**
     * @param guard asked about the address that a connection is made to
     * @param connections that it is read through
     * @param checked what the server has parsed by itself already, kept by whoever opens warehouses
     * @param readers told of every reading
     */
    public Warehouse(
            WarehouseSettings settings,
            AddressGuard guard,
            WarehouseConnections connections,
            CheckedTexts checked,
            Readers readers) {
        this.settings = settings;
        this.readers = readers;
        this.guard = guard;
        this.connections = connections;
        this.checked = checked;
    }

    /** Takes rows one at a time; the array is reused for the next row. */
    @FunctionalInterface
    public interface RowSink {
        /** @return false to stop reading */
        boolean row(@Nullable String[] cells);
    }

    /** What a person may do with this connection. */
    public WarehouseReport report() {
        return withConnection(Duration.ofSeconds(30), connection -> new WarehouseBrowser(connection).report(settings));
    }

    /** Runs a query and reads its first rows. */
    public Preview preview(String sql, int limit, Duration timeout) {
        long start = System.nanoTime();
        return withConnection(timeout, connection -> {
            try (PreparedStatement statement = connection.prepareStatement(SqlText.query(sql))) {
                statement.setMaxRows(limit + 1);
                statement.setFetchSize(Math.min(FETCH, limit + 1));
                try (ResultSet rows = query(statement)) {
                    List<Preview.PreviewColumn> columns = columns(rows.getMetaData());
                    List<List<Optional<String>>> out = new ArrayList<>();
                    while (rows.next() && out.size() < limit) {
                        List<Optional<String>> cells = new ArrayList<>();
                        for (int i = 1; i <= columns.size(); i++) {
                            cells.add(Optional.ofNullable(rows.getString(i)));
                        }
                        out.add(cells);
                    }
                    boolean cut = !rows.isAfterLast() && out.size() == limit;
                    return new Preview(columns, out, (System.nanoTime() - start) / 1_000_000, cut);
                }
            }
        });
    }

    /** Columns and types of a query, without running it. */
    public List<Preview.PreviewColumn> describe(String sql, Duration timeout) {
        return withConnection(timeout, connection -> {
            try (PreparedStatement statement = connection.prepareStatement(SqlText.query(sql))) {
                ResultSetMetaData data = statement.getMetaData();
                if (data == null) {
                    throw new WarehouseProblem(Kind.WOULD_WRITE, "This statement gives no rows; a dataset is a query.");
                }
                return columns(data);
            }
        });
    }

    /** One number, from a query of one row and column. */
    public long number(String sql, Duration timeout) {
        return withConnection(timeout, connection -> {
            try (PreparedStatement statement = connection.prepareStatement(sql);
                    ResultSet rows = query(statement)) {
                rows.next();
                return rows.getLong(1);
            }
        });
    }

    /**
     * Reads every row of a query.
     *
     * @param columns names of the wanted columns; cells come in this order, as the server spells them
     * @param arguments text arguments of the query's placeholders
     * @throws WarehouseProblem if a column is gone, or the query fails
     */
    public void read(String sql, List<String> columns, List<String> arguments, Duration timeout, RowSink sink) {
        withConnection(timeout, connection -> {
            try (PreparedStatement statement = connection.prepareStatement(sql)) {
                statement.setFetchSize(FETCH);
                for (int i = 0; i < arguments.size(); i++) {
                    statement.setString(i + 1, arguments.get(i));
                }
                try (ResultSet rows = query(statement)) {
                    int[] at = positions(rows.getMetaData(), columns);
                    @Nullable String[] cells = new String[at.length];
                    while (rows.next()) {
                        for (int i = 0; i < at.length; i++) {
                            cells[i] = rows.getString(at[i]);
                        }
                        if (!sink.row(cells)) {
                            break;
                        }
                    }
                }
                return true;
            }
        });
    }

    /**
     * A query that may stand within other SQL: looked at by itself here, and parsed by itself by the server.
     *
     * @throws WarehouseProblem if it is not one query, or the server does not take it
     */
    public String alone(String sql, Duration timeout) {
        String text = SqlText.query(sql);
        if (!checked.contains(settings, text)) {
            describe(sql, timeout);
            checked.add(settings, text);
        }
        return text;
    }

    private interface Work<T> {
        T run(Connection connection) throws SQLException;
    }

    private <T> T withConnection(Duration timeout, Work<T> work) {
        try (WarehouseConnections.Turn turn = connections.turn(settings, guard, timeout)) {
            Over reading = readers.begin(turn::cancel);
            try {
                return work.run(turn.connection());
            } finally {
                reading.close();
            }
        } catch (SQLException e) {
            throw problem(e, timeout);
        }
    }

    private static ResultSet query(PreparedStatement statement) throws SQLException {
        if (!statement.execute()) {
            throw new WarehouseProblem(Kind.WOULD_WRITE, "This statement gives no rows; a dataset is a query.");
        }
        return statement.getResultSet();
    }

    private static List<Preview.PreviewColumn> columns(ResultSetMetaData data) throws SQLException {
        List<Preview.PreviewColumn> columns = new ArrayList<>();
        for (int i = 1; i <= data.getColumnCount(); i++) {
            columns.add(new Preview.PreviewColumn(
                    data.getColumnLabel(i), type(data.getColumnType(i)), data.getColumnTypeName(i)));
        }
        return columns;
    }

    private static ColumnType type(int jdbcType) {
        return switch (jdbcType) {
            case Types.SMALLINT, Types.INTEGER, Types.BIGINT -> ColumnType.INTEGER;
            case Types.NUMERIC, Types.DECIMAL, Types.REAL, Types.FLOAT, Types.DOUBLE -> ColumnType.DECIMAL;
            case Types.BIT, Types.BOOLEAN -> ColumnType.BOOLEAN;
            case Types.DATE -> ColumnType.DATE;
            case Types.TIMESTAMP, Types.TIMESTAMP_WITH_TIMEZONE -> ColumnType.TIMESTAMP;
            default -> ColumnType.TEXT;
        };
    }

    private static int[] positions(ResultSetMetaData data, List<String> names) throws SQLException {
        int[] at = new int[names.size()];
        for (int i = 1; i <= data.getColumnCount(); i++) {
            int wanted = names.indexOf(data.getColumnLabel(i));
            if (wanted >= 0) {
                at[wanted] = i;
            }
        }
        for (int i = 0; i < at.length; i++) {
            if (at[i] == 0) {
                throw new WarehouseProblem(
                        Kind.COLUMN_GONE, "The query no longer gives a column called " + names.get(i) + ".");
            }
        }
        return at;
    }

    private WarehouseProblem problem(SQLException e, Duration timeout) {
        String state = Optional.ofNullable(e.getSQLState()).orElse("");
        OptionalInt position = OptionalInt.empty();
        if (e instanceof PSQLException server && server.getServerErrorMessage() != null) {
            int at = server.getServerErrorMessage().getPosition();
            position = at > 0 ? OptionalInt.of(at) : OptionalInt.empty();
        }
        if (refused(e).isPresent()) {
            return new WarehouseProblem(Kind.ADDRESS_REFUSED, refused(e).get());
        }
        if (PostgresLogin.tooLarge(e)) {
            return new WarehouseProblem(
                    Kind.ROWS_TOO_LARGE,
                    "Some rows of this query are so large that " + FETCH + " of them are more than 64 MB."
                            + " Leave large columns out, or cut them in the query.");
        }
        Kind kind = kind(state, e);
        String message =
                switch (kind) {
                    case SIGN_IN_REFUSED -> "The warehouse refused user " + settings.user() + ".";
                    case UNREACHABLE -> "The warehouse at " + settings + " did not answer.";
                    case WOULD_WRITE -> "Reading never writes, and this query would.";
                    case TOOK_TOO_LONG -> "Stopped after " + timeout.toSeconds() + " s, the time limit.";
                    case NOT_PERMITTED -> "User " + settings.user() + " may not read this.";
                    default ->
                        state.startsWith(NAMES_AND_SYNTAX)
                                ? "The warehouse refused this query: " + message(e) + "."
                                : "The warehouse refused this query (SQLSTATE " + state + ").";
                };
        String words = message.contains(message(e)) ? "" : message(e);
        return new WarehouseProblem(kind, message, words, position, e);
    }

    private static Optional<String> refused(Throwable problem) {
        for (Throwable cause = problem; cause != null; cause = cause.getCause()) {
            if (cause instanceof RefusedAddress) {
                return Optional.of(String.valueOf(cause.getMessage()));
            }
        }
        return Optional.empty();
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
