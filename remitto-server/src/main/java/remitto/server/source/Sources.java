package remitto.server.source;

import com.fasterxml.jackson.annotation.JsonIgnore;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Clock;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Supplier;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
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

    private final JdbcClient jdbc;
    private final Json json;
    private final Secrets secrets;
    private final Clock clock;
    private final AddressGuard guard;
    private final Askers askers;
    private final Dialects dialects;

    Sources(
            JdbcClient jdbc,
            Json json,
            Secrets secrets,
            AddressGuard guard,
            Askers askers,
            Dialects dialects,
            Clock clock) {
        this.dialects = dialects;
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
     * @param product what kind of database it is, such as PostgreSQL
     * @param report what the last test found; absent before the first
     * @param problem why the last test failed; blank when it did not
     * @param acceptedLogin absent unless an administrator accepted a login that may do more than read
     */
    public record Source(
            long id,
            String name,
            String kind,
            String product,
            DatabaseAddress address,
            Optional<Instant> testedAt,
            String problem,
            Optional<SourceReport> report,
            Optional<AcceptedLogin> acceptedLogin) {
        /** Whether it shows what Remitto itself keeps. */
        @JsonIgnore
        public boolean isOwn() {
            return kind.equals(PEOPLE);
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
        if (source.report().isEmpty()) {
            test(id);
            source = get(id);
        }
        String user = source.address().user();
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
        AddressGuard asked =
                source.isOwn() ? new AddressGuard(List.of(source.address().host())) : guard;
        return dialects.open(source.address(), password(source.id()), asked, cancel -> askers.begin(cancel)::close);
    }

    /**
     * Looks at a query without asking the source.
     *
     * @throws SourceProblem that says what is wrong and where
     */
    public void check(long id, SourceQuery query) {
        dialects.check(get(id).address(), query);
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

    long add(String name, DatabaseAddress address, String password) {
        return insert(name, "warehouse", address, password);
    }

    private static Place place(long id) {
        return Place.of("source", id);
    }

    /** Its id is known first, since secrets are sealed for the row that they are kept in. */
    private long insert(String name, String kind, DatabaseAddress address, String password) {
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
    void change(long id, String name, DatabaseAddress address, Optional<String> password) {
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
            SourceReport found = open(source).check();
            tested(id, source.isOwn() ? found.withoutGrants() : found);
        } catch (SourceProblem problem) {
            testFailed(id, String.valueOf(problem.getMessage()));
        }
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
        DatabaseAddress address = json.read(row.getString("settings"), DatabaseAddress.class);
        return new Source(
                row.getLong("id"),
                row.getString("name"),
                row.getString("kind"),
                dialects.title(address.dialectName()),
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
