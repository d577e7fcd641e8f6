package remitto.connect.table;

import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import remitto.connect.destination.Destination;
import remitto.connect.destination.DestinationProblem;
import remitto.connect.destination.DestinationProblem.Kind;
import remitto.connect.destination.Finding;
import remitto.connect.destination.ListMaking;
import remitto.connect.destination.Listing;
import remitto.connect.destination.RateLimit;
import remitto.connect.destination.WholeFiles;
import remitto.connect.destination.Writing;
import remitto.connect.outgoing.AddressGuard;
import remitto.connect.postgres.PostgresLogin;
import remitto.connect.profile.Profile;
import remitto.connect.profile.Setup;
import remitto.connect.signin.Login;
import remitto.core.destination.ObjectDescription;
import remitto.core.value.Value;

/**
 * Tables of a PostgreSQL database, written row by row. A call is one transaction: what is answered for was committed. Rows are
 * told apart by a primary key of one column. Safe to share between threads; every call makes a connection of its own.
 */
public final class TableDestination implements Destination, Finding, Listing, Writing, Setup {
    private static final int PAGE = 1_000;
    private static final int CONNECT_SECONDS = 8;

    private final String title;
    private final Login login;
    private final AddressGuard guard;
    private final RateLimit rateLimit;
    private final Duration longest;

    public TableDestination(Profile profile, Login login, AddressGuard guard, RateLimit rateLimit) {
        this.title = profile.title();
        this.login = login;
        this.guard = guard;
        this.rateLimit = rateLimit;
        this.longest = Duration.ofSeconds(profile.limits().longestCallSeconds());
    }

    private interface Work<T> {
        T on(Connection connection) throws SQLException;
    }

    /** @throws DestinationProblem if it cannot be reached, does not let us in, or refuses what was asked */
    private <T> T reading(Work<T> work) {
        rateLimit.await();
        try (Connection connection = open()) {
            connection.setReadOnly(true);
            connection.setAutoCommit(false);
            T found = work.on(connection);
            connection.rollback();
            return found;
        } catch (SQLException e) {
            throw new DestinationProblem(kind(e), title + ": " + words(e));
        } catch (IllegalArgumentException e) {
            throw new DestinationProblem(Kind.UNREACHABLE, String.valueOf(e.getMessage()));
        }
    }

    private Connection open() throws SQLException {
        TableAddress address = TableAddress.of(login.setting("base_address"));
        guard.check(address.uri());
        return new PostgresLogin(
                        address.host(),
                        address.port(),
                        address.database(),
                        login.setting("user"),
                        login.setting("password"),
                        address.sslmode())
                .open(guard, longest.plusSeconds(5), "-c TimeZone=UTC -c statement_timeout=" + longest.toMillis());
    }

    private String schema() {
        String schema = login.setting("schema").strip();
        return schema.isEmpty() ? "public" : schema;
    }

    private Table table(Connection connection, String object) throws SQLException {
        return Table.of(connection, schema(), object)
                .orElseThrow(() -> new DestinationProblem(
                        Kind.REFUSED,
                        title + " has no table " + schema() + "." + object
                                + " with a primary key of one column that " + login.setting("user")
                                + " may read, insert into and update."));
    }

    @Override
    public String check() {
        return reading(connection -> {
            int tables = tables(connection).size();
            return "PostgreSQL " + connection.getMetaData().getDatabaseProductVersion() + " takes us for "
                    + login.setting("user") + ", who may write " + tables + (tables == 1 ? " table" : " tables")
                    + " of "
                    + schema();
        });
    }

    private List<ObjectSummary> tables(Connection connection) throws SQLException {
        List<ObjectSummary> tables = new ArrayList<>();
        try (PreparedStatement statement = connection.prepareStatement(Table.USABLE + " order by c.relname")) {
            statement.setString(1, schema());
            try (ResultSet rows = statement.executeQuery()) {
                while (rows.next()) {
                    String name = rows.getString("name");
                    tables.add(new ObjectSummary(name, name, false, false));
                }
            }
        }
        return tables;
    }

    @Override
    public List<ObjectSummary> objects() {
        return reading(this::tables);
    }

    @Override
    public ObjectDescription describe(String object) {
        return reading(connection -> table(connection, object).description());
    }

    @Override
    public Optional<Finding> finding() {
        return Optional.of(this);
    }

    @Override
    public Optional<Listing> listing() {
        return Optional.of(this);
    }

    @Override
    public Optional<Writing> writing() {
        return Optional.of(this);
    }

    @Override
    public Optional<WholeFiles> files() {
        return Optional.empty();
    }

    @Override
    public Optional<ListMaking> listMaking() {
        return Optional.empty();
    }

    @Override
    public Optional<Answers> answers() {
        return Optional.empty();
    }

    @Override
    public Optional<String> recordPage() {
        return Optional.empty();
    }

    @Override
    public ListFacts listFacts(String object) {
        return ListFacts.NOTHING;
    }

    @Override
    public List<RemoteRecord> find(ObjectDescription object, String by, List<Value> values) {
        return reading(connection -> {
            Table table = table(connection, object.name());
            String column = by.equals(ID) ? table.key() : by;
            String sql = "select " + list(table) + " from " + table.quoted() + " where " + Table.quote(column)
                    + " = any(cast(? as " + table.column(column).type() + "[]))";
            try (PreparedStatement statement = connection.prepareStatement(sql)) {
                statement.setArray(
                        1,
                        connection.createArrayOf(
                                "text", values.stream().map(Value::display).toArray()));
                return rows(table, statement);
            }
        });
    }

    @Override
    public boolean tellsChanges() {
        return false;
    }

    @Override
    public Page list(ObjectDescription object, Optional<Instant> since, Optional<String> cursor) {
        if (since.isPresent()) {
            throw new DestinationProblem(Kind.REFUSED, title + " does not tell which rows changed since a moment.");
        }
        return reading(connection -> {
            Table table = table(connection, object.name());
            String key = Table.quote(table.key());
            String after = cursor.isPresent()
                    ? " where " + key + " > cast(? as "
                            + table.column(table.key()).type() + ")"
                    : "";
            String sql =
                    "select " + list(table) + " from " + table.quoted() + after + " order by " + key + " limit " + PAGE;
            try (PreparedStatement statement = connection.prepareStatement(sql)) {
                if (cursor.isPresent()) {
                    statement.setString(1, cursor.get());
                }
                List<RemoteRecord> records = rows(table, statement);
                Optional<String> next = records.size() < PAGE
                        ? Optional.empty()
                        : Optional.of(records.get(records.size() - 1).id());
                return new Page(records, List.of(), next);
            }
        });
    }

    private static String list(Table table) {
        return table.columns().stream()
                .map(column -> Table.quote(column.field().name()))
                .collect(Collectors.joining(", "));
    }

    private static List<RemoteRecord> rows(Table table, PreparedStatement statement) throws SQLException {
        List<RemoteRecord> records = new ArrayList<>();
        try (ResultSet rows = statement.executeQuery()) {
            while (rows.next()) {
                Map<String, Value> fields = new LinkedHashMap<>();
                for (Table.TableColumn column : table.columns()) {
                    fields.put(column.field().name(), Cells.read(rows, column.field()));
                }
                records.add(new RemoteRecord(rows.getString(table.key()), fields));
            }
        }
        return records;
    }

    @Override
    public CallOutcome add(Batch batch) {
        return new TableWriter(this::open, rateLimit, title).write(schema(), batch, TableWriter.Act.ADD);
    }

    @Override
    public CallOutcome update(Batch batch) {
        return new TableWriter(this::open, rateLimit, title).write(schema(), batch, TableWriter.Act.UPDATE);
    }

    @Override
    public CallOutcome remove(Batch batch) {
        return new TableWriter(this::open, rateLimit, title).write(schema(), batch, TableWriter.Act.REMOVE);
    }

    @Override
    public List<Account> accounts() {
        return List.of();
    }

    @Override
    public Found ask(Profile.Ask how) {
        return new Found(false, "");
    }

    static Kind kind(SQLException e) {
        String state = String.valueOf(e.getSQLState());
        if (state.startsWith("28")) {
            return Kind.SIGN_IN_REFUSED;
        }
        // Classes of conditions that pass (PostgreSQL, appendix A): lost connections, rolled back by a conflict, out of
        // resources, a lock in the way, stopped or timed out. None of them says anything against a row.
        return List.of("08", "40", "53", "55", "57").stream().anyMatch(state::startsWith)
                ? Kind.UNREACHABLE
                : Kind.REFUSED;
    }

    static String words(SQLException e) {
        return String.valueOf(e.getMessage()).replaceAll("\\s+", " ").replaceFirst("^(ERROR|FATAL): ", "");
    }
}
