package remitto.connect.table;

import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Savepoint;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;
import org.postgresql.util.PSQLException;
import org.postgresql.util.ServerErrorMessage;
import remitto.connect.destination.Destination.Batch;
import remitto.connect.destination.Destination.CallOutcome;
import remitto.connect.destination.Destination.Exchange;
import remitto.connect.destination.Destination.FieldProblem;
import remitto.connect.destination.Destination.Outgoing;
import remitto.connect.destination.Destination.RecordResult;
import remitto.connect.destination.DestinationProblem.Kind;
import remitto.connect.destination.RateLimit;

/** Writes rows, a call a transaction; a row that is refused does not hold up the others. */
final class TableWriter {
    private static final String UNIQUE = "23505";

    private final Opener opener;
    private final RateLimit rateLimit;
    private final String title;

    TableWriter(Opener opener, RateLimit rateLimit, String title) {
        this.opener = opener;
        this.rateLimit = rateLimit;
        this.title = title;
    }

    /** Makes a connection. */
    interface Opener {
        Connection open() throws SQLException;
    }

    /** What is done with a row. */
    enum Act {
        ADD,
        UPDATE,
        REMOVE
    }

    CallOutcome write(String schema, Batch batch, Act act) {
        rateLimit.await();
        if (!batch.leave().holds()) {
            return new CallOutcome.NotSent("this process was not heard of for too long");
        }
        try (Connection connection = opener.open()) {
            connection.setAutoCommit(false);
            Optional<Table> table = Table.of(connection, schema, batch.object().name());
            if (table.isEmpty()) {
                return new CallOutcome.Failed(
                        404,
                        title + " has no table " + schema + "." + batch.object().name()
                                + " that can be written any more",
                        false,
                        exchange(act, schema, batch, "no such table"));
            }
            return committed(connection, table.get(), batch, act);
        } catch (SQLException e) {
            return switch (TableDestination.kind(e)) {
                case SIGN_IN_REFUSED ->
                    new CallOutcome.Failed(
                            401,
                            TableDestination.words(e),
                            false,
                            exchange(act, schema, batch, TableDestination.words(e)));
                case UNREACHABLE -> new CallOutcome.NotSent(TableDestination.words(e));
                default ->
                    new CallOutcome.Failed(
                            500,
                            TableDestination.words(e),
                            true,
                            exchange(act, schema, batch, TableDestination.words(e)));
            };
        } catch (IllegalArgumentException e) {
            return new CallOutcome.NotSent(String.valueOf(e.getMessage()));
        }
    }

    private CallOutcome committed(Connection connection, Table table, Batch batch, Act act) {
        List<RecordResult> results = new ArrayList<>();
        try {
            for (Outgoing row : batch.records()) {
                results.add(one(connection, table, row, act));
            }
        } catch (SQLException e) {
            // The transaction was never committed, so none of it is there.
            return TableDestination.kind(e) == Kind.UNREACHABLE
                    ? new CallOutcome.NotSent(TableDestination.words(e))
                    : new CallOutcome.Failed(
                            500,
                            TableDestination.words(e),
                            true,
                            exchange(act, table.schema(), batch, TableDestination.words(e)));
        }
        try {
            connection.commit();
        } catch (SQLException e) {
            return new CallOutcome.Unknown(TableDestination.words(e));
        }
        long taken = results.stream().filter(RecordResult::accepted).count();
        return new CallOutcome.Answered(
                results, exchange(act, table.schema(), batch, taken + " of " + results.size() + " rows taken"));
    }

    private static RecordResult one(Connection connection, Table table, Outgoing row, Act act) throws SQLException {
        Savepoint before = connection.setSavepoint();
        try {
            RecordResult result =
                    switch (act) {
                        case ADD -> add(connection, table, row);
                        case UPDATE -> update(connection, table, row);
                        case REMOVE -> remove(connection, table, row);
                    };
            connection.releaseSavepoint(before);
            return result;
        } catch (SQLException e) {
            if (TableDestination.kind(e) != Kind.REFUSED) {
                throw e;
            }
            connection.rollback(before);
            return refused(e, act);
        } catch (IllegalArgumentException e) {
            connection.rollback(before);
            return new RecordResult(
                    false, false, "refused", "", List.of(new FieldProblem("", String.valueOf(e.getMessage()))));
        }
    }

    private static RecordResult refused(SQLException e, Act act) {
        Optional<ServerErrorMessage> said = Optional.ofNullable(e)
                .filter(PSQLException.class::isInstance)
                .map(PSQLException.class::cast)
                .flatMap(one -> Optional.ofNullable(one.getServerErrorMessage()));
        String column =
                said.flatMap(one -> Optional.ofNullable(one.getColumn())).orElse("");
        boolean there = act == Act.ADD && UNIQUE.equals(e.getSQLState());
        return new RecordResult(
                false,
                there,
                there ? "already exists" : "refused",
                "",
                List.of(new FieldProblem(column, TableDestination.words(e))));
    }

    private static RecordResult add(Connection connection, Table table, Outgoing row) throws SQLException {
        List<String> names = List.copyOf(row.fields().keySet());
        String sql = "insert into " + table.quoted() + " ("
                + names.stream().map(Table::quote).collect(Collectors.joining(", ")) + ") values ("
                + names.stream().map(name -> cast(table, name)).collect(Collectors.joining(", ")) + ") returning "
                + Table.quote(table.key()) + "::text";
        try (PreparedStatement statement = connection.prepareStatement(sql)) {
            fill(statement, names, row, connection);
            try (ResultSet rows = statement.executeQuery()) {
                rows.next();
                return new RecordResult(true, false, "added", rows.getString(1), List.of());
            }
        }
    }

    private static RecordResult update(Connection connection, Table table, Outgoing row) throws SQLException {
        List<String> names = List.copyOf(row.fields().keySet());
        String sql = "update " + table.quoted() + " set "
                + names.stream()
                        .map(name -> Table.quote(name) + " = " + cast(table, name))
                        .collect(Collectors.joining(", "))
                + " where " + Table.quote(table.key()) + " = " + cast(table, table.key()) + " returning "
                + Table.quote(table.key()) + "::text";
        try (PreparedStatement statement = connection.prepareStatement(sql)) {
            fill(statement, names, row, connection);
            statement.setString(names.size() + 1, row.id());
            return counted(statement, "changed");
        }
    }

    private static RecordResult remove(Connection connection, Table table, Outgoing row) throws SQLException {
        String sql = "delete from " + table.quoted() + " where " + Table.quote(table.key()) + " = "
                + cast(table, table.key()) + " returning " + Table.quote(table.key()) + "::text";
        try (PreparedStatement statement = connection.prepareStatement(sql)) {
            statement.setString(1, row.id());
            return counted(statement, "removed");
        }
    }

    /** Nothing there to write to: the row moved on. */
    private static RecordResult counted(PreparedStatement statement, String outcome) throws SQLException {
        try (ResultSet rows = statement.executeQuery()) {
            return rows.next()
                    ? new RecordResult(true, false, outcome, rows.getString(1), List.of())
                    : new RecordResult(
                            false,
                            true,
                            "gone",
                            "",
                            List.of(new FieldProblem("", "There is no row of this key any more")));
        }
    }

    private static String cast(Table table, String column) {
        return "cast(? as " + table.column(column).type() + ")";
    }

    private static void fill(PreparedStatement statement, List<String> names, Outgoing row, Connection connection)
            throws SQLException {
        for (int i = 0; i < names.size(); i++) {
            Cells.write(statement, i + 1, row.fields().get(names.get(i)), connection);
        }
    }

    private static Exchange exchange(Act act, String schema, Batch batch, String answer) {
        String keys = batch.records().stream()
                .map(one -> one.id().isEmpty() ? one.key().display() : one.id())
                .collect(Collectors.joining(", "));
        return new Exchange(
                act.name(), schema + "." + batch.object().name(), batch.keyField() + ": " + keys, 200, answer);
    }
}
