package remitto.server.source;

import com.fasterxml.jackson.annotation.JsonIgnore;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Clock;
import java.time.Instant;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Supplier;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import remitto.connect.filedrop.FileStore;
import remitto.connect.outgoing.AddressGuard;
import remitto.connect.source.RowSource;
import remitto.connect.source.SourceProblem;
import remitto.connect.source.SourceQuery;
import remitto.connect.source.SourceReport;
import remitto.server.asker.Askers;
import remitto.server.platform.ActorName;
import remitto.server.platform.Json;
import remitto.server.platform.Problem;
import remitto.server.platform.Rows;
import remitto.server.secret.Place;
import remitto.server.secret.Secrets;

/** Connections that data is read from. */
@Component
public class Sources {
    /** The kind of the one source that shows our own people. */
    static final String PEOPLE = "people";

    /** The schema of our own database that landed rows are read from. */
    public static final String LANDED = "landed";

    private final JdbcClient jdbc;
    private final Json json;
    private final Secrets secrets;
    private final Clock clock;
    private final AddressGuard guard;
    private final Askers askers;
    private final Dialects dialects;
    private final FileStores stores;

    Sources(
            JdbcClient jdbc,
            Json json,
            Secrets secrets,
            AddressGuard guard,
            Askers askers,
            Dialects dialects,
            FileStores stores,
            Clock clock) {
        this.dialects = dialects;
        this.stores = stores;
        this.jdbc = jdbc;
        this.json = json;
        this.secrets = secrets;
        this.guard = guard;
        this.askers = askers;
        this.clock = clock;
    }

    private static final String SELECT = """
            select id, name, kind, settings, tested_at, test_problem, report, login_accepted_by, login_accepted_at,
              login_accepted_reason, archived_at from source
            """;

    /** That a login which may do more than read is used all the same. */
    public record AcceptedLogin(@ActorName String by, Instant at, String reason) {}

    /**
     * A source without its password.
     *
     * @param product what kind of database or of place it is, such as PostgreSQL or SFTP
     * @param report what the last test found; absent before the first
     * @param problem why the last test failed; blank when it did not
     * @param acceptedLogin absent unless an administrator accepted a login that may do more than read
     */
    public record Source(
            long id,
            String name,
            String kind,
            String product,
            SourceAddress address,
            Optional<Instant> testedAt,
            String problem,
            Optional<SourceReport> report,
            Optional<AcceptedLogin> acceptedLogin) {
        /** Whether it shows what Remitto itself keeps. */
        @JsonIgnore
        public boolean isOwn() {
            return kind.equals(PEOPLE);
        }

        /** Whether its rows come in files. */
        @JsonIgnore
        public boolean isOfFiles() {
            return address instanceof FileAddress;
        }

        /** Whether other tools call with its rows. */
        @JsonIgnore
        public boolean isOfCalls() {
            return address instanceof CallAddress;
        }

        /** Whether its rows are kept in our own database before they are read. */
        @JsonIgnore
        boolean isLanded() {
            return address instanceof LandedAddress;
        }
    }

    public List<Source> all() {
        return jdbc.sql(SELECT + " where archived_at is null order by name")
                .query((row, number) -> source(row))
                .list();
    }

    public Source get(long id) {
        return jdbc.sql(SELECT + " where id = ?")
                .param(id)
                .query((row, number) -> source(row))
                .optional()
                .orElseThrow(() -> Problem.notFound("source " + id));
    }

    /**
     * Opens a source for reading.
     *
     * @throws SourceProblem if its login may do more than read, and no administrator has accepted that
     */
    public RowSource rows(long id) {
        Source source = get(id);
        if (source.isLanded()) {
            // What has landed can be read whether or not its place can be reached now.
            return open(source);
        }
        if (source.report().isEmpty()) {
            test(id);
            source = get(id);
        }
        String user = database(source).user();
        SourceReport report = source.report().orElseThrow(problem(SourceProblem.Kind.UNREACHABLE, source.problem()));
        if (!report.warnings().isEmpty() && source.acceptedLogin().isEmpty()) {
            throw new SourceProblem(
                    SourceProblem.Kind.LOGIN_REFUSED,
                    "User " + user + " of source " + source.name() + " may do more than read: it "
                            + report.warnings().get(0) + ". Use a login that may only read; the source's page has the"
                            + " statements that make one. An administrator can accept this login with a reason.");
        }
        return open(source);
    }

    /** The source of people is a database of ours, wherever it stands; everybody else's is let in like a destination. */
    private RowSource open(Source source) {
        Source read = source.isLanded() ? own() : source;
        DatabaseAddress address = database(read);
        AddressGuard asked = read.isOwn() ? new AddressGuard(List.of(address.host())) : guard;
        return dialects.open(address, password(read.id()), asked, cancel -> askers.begin(cancel)::close);
    }

    private static DatabaseAddress database(Source source) {
        if (source.address() instanceof DatabaseAddress database) {
            return database;
        }
        throw new IllegalStateException("source " + source.id() + " is no database");
    }

    private Source own() {
        return jdbc.sql(SELECT + " where kind = 'people'")
                .query((row, number) -> source(row))
                .optional()
                .orElseThrow(problem(
                        SourceProblem.Kind.NOT_OFFERED,
                        "Rows of files and calls are read by the login that reads people, which this installation does not have."
                                + " Make it as the installation's documentation says, and start the server again."));
    }

    /** The database that the rows of a source are read from. */
    public DatabaseAddress readFrom(long id) {
        Source source = get(id);
        return database(source.isLanded() ? own() : source);
    }

    /**
     * Opens the place that a source's files are in.
     *
     * @throws Problem if it is a database
     */
    public FileStore files(long id) {
        Source source = get(id);
        if (source.address() instanceof FileAddress address) {
            return stores.open(id, address, password(id));
        }
        throw Problem.invalid(source.name()
                + (source.isOfCalls() ? " takes calls and has no files." : " is a database, which has no files."));
    }

    /**
     * Where the files are that people upload to a source.
     *
     * @throws Problem if it takes none
     */
    UploadStore uploads(long id) {
        if (!(get(id).address() instanceof UploadAddress)) {
            throw Problem.invalid("Files are uploaded to sources of uploads only.");
        }
        return stores.uploads(id);
    }

    /**
     * Looks at a query without asking the source.
     *
     * @throws SourceProblem that says what is wrong and where
     */
    public void check(long id, SourceQuery query) {
        dialects.check(readFrom(id), query);
    }

    private static Supplier<SourceProblem> problem(SourceProblem.Kind kind, String message) {
        return () -> new SourceProblem(kind, message);
    }

    String password(long id) {
        return jdbc.sql("select secret from source where id = ?")
                .param(id)
                .query(byte[].class)
                .optional()
                .map(kept -> secrets.open(place(id), kept))
                .map(open -> open.getOrDefault("password", ""))
                .orElseThrow(() -> Problem.notFound("source " + id));
    }

    long add(String name, SourceAddress address, String password) {
        return insert(name, kind(address), address, password);
    }

    private static String kind(SourceAddress address) {
        if (address instanceof DatabaseAddress) {
            return "warehouse";
        }
        return address instanceof FileAddress ? "files" : "calls";
    }

    private static Place place(long id) {
        return Place.of("source", id);
    }

    /** Its id is known first, since secrets are sealed for the row that they are kept in. */
    private long insert(String name, String kind, SourceAddress address, String password) {
        long id = jdbc.sql("select nextval(pg_get_serial_sequence('source', 'id'))")
                .query(Long.class)
                .single();
        jdbc.sql("""
                        insert into source (id, name, kind, settings, secret, created_at)
                        overriding system value values (?, ?, ?, ?::jsonb, ?, ?)
                        """)
                .params(
                        id,
                        name,
                        kind,
                        json.write(address),
                        secrets.seal(place(id), Map.of("password", password)),
                        Rows.time(clock.instant()))
                .update();
        return id;
    }

    /** Makes the source of people, or points the one there is at this address. */
    public void people(String name, DatabaseAddress address, String password) {
        Optional<Long> there = jdbc.sql("select id from source where kind = 'people'")
                .query(Long.class)
                .optional();
        there.ifPresentOrElse(
                id -> jdbc.sql("update source set settings = ?::jsonb, secret = ? where id = ?")
                        .params(json.write(address), secrets.seal(place(id), Map.of("password", password)), id)
                        .update(),
                () -> insert(name, PEOPLE, address, password));
    }

    /** A changed address takes back what was accepted of the login before. */
    void change(long id, String name, SourceAddress address, Optional<String> password) {
        boolean moved = !get(id).address().equals(address);
        jdbc.sql("update source set name = ?, settings = ?::jsonb where id = ?")
                .params(name, json.write(address), id)
                .update();
        password.ifPresent(fresh -> jdbc.sql("update source set secret = ? where id = ?")
                .params(secrets.seal(place(id), Map.of("password", fresh)), id)
                .update());
        if (moved) {
            jdbc.sql("""
                            update source set report = null, login_accepted_by = null, login_accepted_at = null,
                              login_accepted_reason = null where id = ?
                            """).param(id).update();
        }
    }

    void acceptLogin(long id, String reason, String who) {
        jdbc.sql("""
                        update source set login_accepted_by = ?, login_accepted_at = ?, login_accepted_reason = ? where id = ?
                        """).params(who, Rows.time(clock.instant()), reason, id).update();
    }

    /** Finds out what may be read there, and writes that down, or why nothing can. */
    public void test(long id) {
        Source source = get(id);
        try {
            tested(id, source.isLanded() ? landedReport(source) : report(source));
        } catch (SourceProblem problem) {
            testFailed(id, String.valueOf(problem.getMessage()));
        }
    }

    private SourceReport report(Source source) {
        SourceReport found = open(source).check();
        return source.isOwn() ? found.withoutGrants() : found;
    }

    /** Its place, and the tables that its rows have landed in. */
    private SourceReport landedReport(Source source) {
        String place = source.isOfFiles() ? files(source.id()).check() : "Takes calls";
        Set<String> tables = new HashSet<>(
                jdbc.sql("""
                        select table_name from file_set where source_id = :id and archived_at is null
                        union select table_name from receiver where source_id = :id and archived_at is null
                        """).param("id", source.id()).query(String.class).list());
        List<SourceReport.Schema> landed = open(source).check().schemas().stream()
                .filter(one -> one.name().equals(LANDED))
                .map(one -> new SourceReport.Schema(
                        one.name(),
                        one.usable(),
                        one.tables().stream()
                                .filter(table -> tables.contains(table.name()))
                                .toList()))
                .toList();
        String user = source.address() instanceof FileServerAddress server ? server.user() : "";
        return new SourceReport(place, user, !user.isEmpty(), landed, List.of(), grants(source));
    }

    /** The least that a login needs there. */
    private static List<String> grants(Source source) {
        return source.address() instanceof FileServerAddress server ? SftpGrants.of(server) : List.of();
    }

    void tested(long id, SourceReport report) {
        jdbc.sql("update source set report = ?::jsonb, tested_at = ?, test_problem = '' where id = ?")
                .params(json.write(report), Rows.time(clock.instant()), id)
                .update();
    }

    void testFailed(long id, String problem) {
        jdbc.sql("update source set tested_at = ?, test_problem = ? where id = ?")
                .params(Rows.time(clock.instant()), problem, id)
                .update();
    }

    private Source source(ResultSet row) throws SQLException {
        SourceAddress address = json.read(row.getString("settings"), SourceAddress.class);
        return new Source(
                row.getLong("id"),
                row.getString("name"),
                row.getString("kind"),
                address instanceof DatabaseAddress database
                        ? dialects.title(database.dialectName())
                        : ((LandedAddress) address).title(),
                address,
                Rows.optionalTime(row, "tested_at"),
                Rows.optionalText(row, "test_problem").orElse(""),
                Rows.optionalText(row, "report").map(text -> json.read(text, SourceReport.class)),
                accepted(row));
    }

    private static Optional<AcceptedLogin> accepted(ResultSet row) throws SQLException {
        Optional<String> by = Rows.optionalText(row, "login_accepted_by");
        return by.isEmpty()
                ? Optional.empty()
                : Optional.of(new AcceptedLogin(
                        by.get(), Rows.time(row, "login_accepted_at"), row.getString("login_accepted_reason")));
    }
}
