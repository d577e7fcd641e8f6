package remitto.connect.database;

import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.ResultSetMetaData;
import java.sql.SQLException;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import remitto.connect.outgoing.AddressGuard;
import remitto.connect.source.LookUp;
import remitto.connect.source.Preview;
import remitto.connect.source.Readers;
import remitto.connect.source.Reading;
import remitto.connect.source.RowSink;
import remitto.connect.source.RowSource;
import remitto.connect.source.SourceProblem;
import remitto.connect.source.SourceProblem.Kind;
import remitto.connect.source.SourceQuery;
import remitto.connect.source.SourceReport;

/**
 * A database that is read by JDBC. Every statement runs in a read-only transaction with a time limit; what somebody wrote is looked at
 * by itself first, and parsed by the server by itself before it stands within other SQL, so that nothing can step out of that
 * transaction.
 */
public final class DatabaseSource<S> implements RowSource {
    /** Characters of rows that are in memory together. */
    private static final long MOST_CHARACTERS = 64_000_000;

    private static final Duration CHECK_TIME = Duration.ofSeconds(30);
    private static final Duration PARSE_TIME = Duration.ofSeconds(20);

    private final S settings;
    private final Tools<S> tools;
    private final Spelling spelling;
    private final Sessions<S> sessions;

    /**
     * What every database is opened with.
     *
     * @param <S> what it is opened with
     * @param guard asked about the address that a connection is made to
     * @param connections that it is read through
     * @param checked what the server has parsed by itself already, kept by whoever opens sources
     * @param readers told of every reading
     */
    public record Tools<S>(
            AddressGuard guard, DatabaseConnections<S> connections, CheckedTexts checked, Readers readers) {}

    public DatabaseSource(S settings, Tools<S> tools) {
        this.settings = settings;
        this.tools = tools;
        this.spelling = tools.connections().dialect().spelling();
        this.sessions = tools.connections().dialect().sessions();
    }

    @Override
    public Set<Ability> abilities() {
        return Set.of(Ability.OWN_QUERIES);
    }

    @Override
    public SourceReport check() {
        return withConnection(CHECK_TIME, connection -> sessions.report(connection, settings));
    }

    @Override
    public List<Preview.PreviewColumn> describe(SourceQuery query, Duration time) {
        return withConnection(time, connection -> described(connection, spelling.of(query)));
    }

    @Override
    public Preview preview(SourceQuery query, int rows, Duration time) {
        return withConnection(time, connection -> preview(connection, spelling.of(query), rows, time));
    }

    private Preview preview(Connection connection, String sql, int most, Duration time) throws SQLException {
        long start = System.nanoTime();
        try (PreparedStatement statement = connection.prepareStatement(sql)) {
            statement.setMaxRows(most + 1);
            sessions.limit(statement, time);
            statement.setFetchSize(Math.min(sessions.fetch(), most + 1));
            try (ResultSet rows = answer(statement)) {
                List<Preview.PreviewColumn> columns = columns(rows.getMetaData());
                Sessions.Cells reader = sessions.cells(rows.getMetaData());
                List<List<Optional<String>>> out = new ArrayList<>();
                long characters = 0;
                while (rows.next() && out.size() < most) {
                    List<Optional<String>> cells = new ArrayList<>();
                    for (int i = 1; i <= columns.size(); i++) {
                        String cell = reader.of(rows, i);
                        characters = counted(characters, cell);
                        cells.add(Optional.ofNullable(cell));
                    }
                    out.add(cells);
                }
                boolean cut = !rows.isAfterLast() && out.size() == most;
                return new Preview(columns, out, (System.nanoTime() - start) / 1_000_000, cut);
            }
        }
    }

    @Override
    public void read(Reading reading, RowSink sink) {
        String query = ReadingSql.isWhole(reading) ? spelling.of(reading.query()) : alone(reading.query());
        ReadingSql.Asked asked = new ReadingSql(spelling, query).rows(reading);
        read(asked, reading.columns(), reading.time(), sink);
    }

    @Override
    public KeyFindings checkKey(SourceQuery query, List<String> keys, int examples, Duration time) {
        ReadingSql sql = new ReadingSql(spelling, alone(query));
        return withConnection(time, connection -> {
            long doubled = number(connection, sql.countDoubles(keys), time);
            List<List<String>> shown = doubled == 0
                    ? List.of()
                    : preview(connection, sql.doubles(keys), examples, time).rows().stream()
                            .map(row ->
                                    row.stream().map(cell -> cell.orElse("")).toList())
                            .toList();
            return new KeyFindings(
                    number(connection, sql.count(), time),
                    number(connection, sql.countBlank(keys), time),
                    doubled,
                    shown);
        });
    }

    @Override
    public Extent probe(SourceQuery query, Optional<String> updatedAt, Duration time) {
        ReadingSql sql = new ReadingSql(spelling, alone(query));
        return withConnection(time, connection -> {
            Optional<String> newest = updatedAt.isEmpty()
                    ? Optional.empty()
                    : preview(connection, sql.newest(updatedAt.get()), 1, time)
                            .rows()
                            .get(0)
                            .get(0);
            return new Extent(number(connection, sql.count(), time), newest);
        });
    }

    @Override
    public Mark mark(SourceQuery query, Optional<String> updatedAt, Duration time) {
        String sql = alone(query);
        return withConnection(time, connection -> sessions.counters(connection, sql))
                .map(counted -> new Mark(Means.COUNTERS, counted))
                .orElseGet(() -> RowSource.super.mark(query, updatedAt, time));
    }

    @Override
    public List<Word> words(SourceQuery query, String column, int most, Duration time) {
        String sql = new ReadingSql(spelling, alone(query)).words(column, most);
        List<Word> words = new ArrayList<>();
        read(new ReadingSql.Asked(sql, List.of()), List.of("word", "held"), time, cells -> {
            words.add(new Word(String.valueOf(cells[0]), Long.parseLong(String.valueOf(cells[1]))));
            return true;
        });
        return words;
    }

    @Override
    public void lookUp(LookUp lookUp, List<String> keys, Duration time, RowSink sink) {
        LookUpSql sql = new LookUpSql(spelling, this::alone, lookUp);
        ReadingSql.Asked asked = sql.of(keys.size());
        List<String> arguments = new ArrayList<>(keys);
        arguments.addAll(asked.arguments());
        read(new ReadingSql.Asked(asked.text(), arguments), sql.columns(), time, sink);
    }

    /** A query that may stand within other SQL: looked at by itself here, and parsed by itself by the server. */
    private String alone(SourceQuery query) {
        String text = spelling.of(query);
        if (!tools.checked().contains(settings, text)) {
            withConnection(PARSE_TIME, connection -> described(connection, text));
            tools.checked().add(settings, text);
        }
        return text;
    }

    private List<Preview.PreviewColumn> described(Connection connection, String sql) throws SQLException {
        try (PreparedStatement statement = connection.prepareStatement(sql)) {
            ResultSetMetaData data = statement.getMetaData();
            if (data == null) {
                throw givesNoRows();
            }
            return columns(data);
        }
    }

    private void read(ReadingSql.Asked asked, List<String> columns, Duration time, RowSink sink) {
        withConnection(time, connection -> {
            try (PreparedStatement statement = connection.prepareStatement(asked.text())) {
                statement.setFetchSize(sessions.fetch());
                sessions.limit(statement, time);
                for (int i = 0; i < asked.arguments().size(); i++) {
                    statement.setString(i + 1, asked.arguments().get(i));
                }
                try (ResultSet rows = answer(statement)) {
                    int[] at = positions(rows.getMetaData(), columns);
                    Sessions.Cells reader = sessions.cells(rows.getMetaData());
                    @Nullable String[] cells = new String[at.length];
                    while (rows.next()) {
                        long characters = 0;
                        for (int i = 0; i < at.length; i++) {
                            cells[i] = reader.of(rows, at[i]);
                            characters = counted(characters, cells[i]);
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

    private long number(Connection connection, String sql, Duration time) throws SQLException {
        try (PreparedStatement statement = connection.prepareStatement(sql)) {
            sessions.limit(statement, time);
            try (ResultSet rows = answer(statement)) {
                rows.next();
                return rows.getLong(1);
            }
        }
    }

    private interface Work<T> {
        T run(Connection connection) throws SQLException;
    }

    private <T> T withConnection(Duration time, Work<T> work) {
        try (DatabaseConnections.Turn<S> turn = tools.connections().turn(settings, tools.guard(), time)) {
            Readers.Over reading = tools.readers().begin(turn::cancel);
            try {
                return work.run(turn.connection());
            } finally {
                reading.close();
            }
        } catch (SQLException e) {
            throw sessions.problem(e, settings, time);
        }
    }

    /** @throws SourceProblem if there are more by now than may be in memory together */
    private static long counted(long characters, @Nullable String cell) {
        long all = characters + (cell == null ? 0 : cell.length());
        if (all > MOST_CHARACTERS) {
            throw new SourceProblem(
                    Kind.ROWS_TOO_LARGE,
                    "Some rows of this query are so large that what is taken in at a time is more than 64 MB. Leave large"
                            + " columns out, or cut them in the query.");
        }
        return all;
    }

    private static ResultSet answer(PreparedStatement statement) throws SQLException {
        if (!statement.execute()) {
            throw givesNoRows();
        }
        return statement.getResultSet();
    }

    private static SourceProblem givesNoRows() {
        return new SourceProblem(Kind.WOULD_WRITE, "This statement gives no rows; a dataset is a query.");
    }

    private List<Preview.PreviewColumn> columns(ResultSetMetaData data) throws SQLException {
        List<Preview.PreviewColumn> columns = new ArrayList<>();
        for (int i = 1; i <= data.getColumnCount(); i++) {
            String name = data.getColumnTypeName(i);
            columns.add(new Preview.PreviewColumn(
                    data.getColumnLabel(i), sessions.type(data.getColumnType(i), name), name));
        }
        return columns;
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
                throw new SourceProblem(
                        Kind.COLUMN_GONE, "The query no longer gives a column called " + names.get(i) + ".");
            }
        }
        return at;
    }
}
