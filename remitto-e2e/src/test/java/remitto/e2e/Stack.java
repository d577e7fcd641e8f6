package remitto.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.net.URI;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.HashMap;
import java.util.Map;
import java.util.Optional;
import remitto.demo.Databases;
import remitto.demo.history.Api;
import remitto.demo.history.DemoHistory;
import remitto.demo.history.Desk;
import remitto.demo.history.Desks;
import remitto.demo.history.MoreRoutes;
import remitto.demo.history.RunningServer;
import remitto.demo.history.Scenario;
import remitto.demo.history.ShiftedClock;
import remitto.demo.warehouse.Halvorn;
import remitto.standins.fault.Testimony;
import remitto.standins.foghorn.Foghorn;
import remitto.standins.gangway.Gangway;
import remitto.standins.lamplight.Lamplight;
import remitto.standins.postbag.Postbag;
import remitto.standins.purser.Purser;
import remitto.standins.slipway.Slipway;
import remitto.standins.ticketshop.TicketShop;

/** The whole product for a test: fresh databases, a small warehouse, Purser and the server, all in this process. */
final class Stack implements AutoCloseable {
    static final String PASSWORD = "ferry-test-2026";
    static final String DEMO_PASSWORD = "ferry-demo-2026";

    final Databases databases;
    final String remittoDatabase;
    final String warehouseDatabase;
    final Path folder;
    final Purser purser;
    final Lamplight lamplight;
    final Foghorn foghorn;
    final Gangway gangway;
    final Postbag postbag;
    final Slipway slipway;
    final TicketShop shop;
    final Desk desk;
    final Connection warehouse;
    private Optional<RunningServer> server = Optional.empty();
    private boolean isLeft;

    private Stack(Databases databases, Berth berth) throws SQLException {
        this.databases = databases;
        remittoDatabase = berth.remitto();
        warehouseDatabase = berth.warehouse();
        folder = berth.folder();
        purser = Purser.start(berth.ports().purser(), folder.resolve("purser.jsonl"));
        lamplight = Lamplight.start(berth.ports().lamplight(), folder.resolve("lamplight.jsonl"));
        foghorn = Foghorn.start(berth.ports().foghorn(), folder.resolve("foghorn.jsonl"));
        gangway = Gangway.start(berth.ports().gangway(), folder.resolve("gangway.jsonl"));
        postbag = Postbag.start(berth.ports().postbag(), folder.resolve("postbag.jsonl"));
        slipway = Slipway.start(0, 0, folder.resolve("slipway"));
        shop = TicketShop.start(0, folder.resolve("ticket-shop.json"));
        desk = new Desk(purserAddress());
        desk.limit(false);
        warehouse = databases.owner(warehouseDatabase);
    }

    static Databases databases() {
        String url = Optional.ofNullable(System.getenv("REMITTO_TEST_PG_URL"))
                .orElseThrow(
                        () -> new IllegalStateException("run the tests with ./remitto test, which starts PostgreSQL"));
        return new Databases(url, System.getenv("REMITTO_TEST_PG_PASSWORD"));
    }

    /** The demo as somebody meets it who starts it: a week of Halvorn Ferries up to today. */
    static Stack withHistory(int people) throws SQLException, IOException {
        Databases databases = databases();
        Berth berth = Berth.free();
        load(databases, berth, people, LocalDate.now(ZoneOffset.UTC));
        Stack stack = new Stack(databases, berth);
        Map<String, Object> properties = stack.properties();
        properties.put("remitto.administrator.password", DEMO_PASSWORD);
        stack.server = Optional.of(RunningServer.start(properties));
        new DemoHistory(
                        stack.server(),
                        stack.warehouse,
                        new Desks(
                                stack.desk,
                                new Desk(local(stack.lamplight.port())),
                                new Desk(local(stack.foghorn.port())),
                                new Desk(local(stack.gangway.port())),
                                new Desk(local(stack.postbag.port()))))
                .live(
                        stack.places(),
                        new MoreRoutes.Outlets(
                                local(stack.lamplight.port()).toString(),
                                local(stack.foghorn.port()).toString()),
                        new DemoHistory.Helpers(
                                local(stack.gangway.port()).toString(),
                                local(stack.postbag.port()).toString(),
                                local(stack.slipway.port()).toString(),
                                local(stack.shop.port()).toString()));
        return stack;
    }

    static URI local(int port) {
        return URI.create("http://127.0.0.1:" + port);
    }

    static void load(Databases databases, Berth berth, int people) throws SQLException {
        load(databases, berth, people, LocalDate.of(2026, 11, 20));
    }

    /** Makes the databases of a stack: an empty one for Remitto, and a small warehouse. */
    static void load(Databases databases, Berth berth, int people, LocalDate today) throws SQLException {
        databases.fresh(berth.remitto(), "remitto");
        databases.fresh(berth.warehouse(), "halvorn_owner");
        databases.makePeopleReader();
        try (Connection owner = databases.owner(berth.warehouse())) {
            new Halvorn(owner, 7, people, today).load();
        }
        databases.grantReader(berth.warehouse());
        databases.makeWriter(berth.warehouse());
    }

    /** Everything but the server. */
    static Stack withoutServer(int people) throws SQLException, IOException {
        Databases databases = databases();
        Berth berth = Berth.free();
        load(databases, berth, people);
        return new Stack(databases, berth);
    }

    static Stack start(int people) throws SQLException, IOException {
        Stack stack = withoutServer(people);
        stack.startServer(new ShiftedClock());
        return stack;
    }

    /**
     * On databases that are there.
     *
     * @param now what the server's clock says; empty for the time that it is
     */
    static Stack start(Databases databases, Berth berth, Optional<Instant> now) throws SQLException {
        Stack stack = new Stack(databases, berth);
        ShiftedClock clock = new ShiftedClock();
        now.ifPresent(clock::set);
        stack.startServer(clock);
        return stack;
    }

    private void startServer(ShiftedClock clock) {
        server = Optional.of(RunningServer.start(properties(), clock));
    }

    /** Kills the server, and starts another when the first has been silent for long enough. */
    void killServer() {
        server().kill();
        try (Connection connection = databases.owner(remittoDatabase);
                Statement statement = connection.createStatement()) {
            statement.execute("update run set beat_at = beat_at - interval '30 seconds';"
                    + " update open_call set opened_at = opened_at - interval '30 seconds'");
        } catch (SQLException e) {
            throw new IllegalStateException(e);
        }
        RunningServer next = RunningServer.start(properties());
        next.clock().set(server().clock().instant().plusSeconds(30));
        server = Optional.of(next);
    }

    Map<String, Object> properties() {
        Map<String, Object> properties = new HashMap<>();
        properties.put("spring.datasource.url", databases.url(remittoDatabase));
        // Tests move the clock, and let routes depart when they mean it.
        properties.put("remitto.departures", false);
        properties.put("remitto.stand-ins", true);
        properties.put("spring.datasource.username", "remitto");
        properties.put("spring.datasource.password", databases.password());
        properties.put("remitto.people-reader.password", databases.password());
        properties.put("remitto.secret-key-file", folder.resolve("secret.key"));
        properties.put("remitto.inbox", folder.resolve("inbox"));
        properties.put("remitto.uploads", folder.resolve("uploads"));
        // Tests move the clock by days, and go on in the session they have.
        properties.put("remitto.session.longest", "9999d");
        properties.put("remitto.outgoing-allowed", "127.0.0.1,localhost");
        properties.put(
                "remitto.let-in-origins",
                "http://127.0.0.1:*,http://localhost:*,postgresql://127.0.0.1:*,sftp://127.0.0.1:*");
        // Hashing a password as it is hashed for users takes longer than most of a test.
        properties.put("remitto.password-memory-kb", 64);
        properties.put("remitto.administrator.email", "admin@halvorn.example");
        properties.put("remitto.administrator.password", PASSWORD);
        return properties;
    }

    /** What Purser received, whatever anybody believes. */
    Testimony testimony() {
        return Testimony.of(folder.resolve("purser.jsonl"));
    }

    /** Nothing was written that had been answered, nor written again that had taken effect unheard. */
    void assertNothingDoubled() {
        assertThat(testimony().receipts()).as("lines that came in").isNotEmpty();
        assertThat(testimony().doubled()).as("doubled").isEmpty();
        assertThat(testimony().repeated()).as("repeated").isEmpty();
    }

    URI purserAddress() {
        return URI.create("http://127.0.0.1:" + purser.port());
    }

    RunningServer server() {
        return server.orElseThrow();
    }

    Api admin() {
        return new Api(server().address()).signIn("admin@halvorn.example", PASSWORD);
    }

    /** A user of a role, made on first use. */
    Api user(String role) {
        String email = role.toLowerCase(java.util.Locale.ROOT) + "@halvorn.example";
        try {
            admin().post(
                            "/api/users",
                            Map.of("email", email, "name", role + " person", "role", role, "password", PASSWORD));
        } catch (Api.Refused refused) {
            if (refused.status() != 409) {
                throw refused;
            }
        }
        return new Api(server().address()).signIn(email, PASSWORD);
    }

    Scenario.Places places() {
        return new Scenario.Places(
                "127.0.0.1",
                databases.port(),
                warehouseDatabase,
                Databases.READER,
                Databases.READER_PASSWORD,
                purserAddress().toString());
    }

    /** Runs a statement as the warehouse's owner. */
    int change(String sql) {
        try (Statement statement = warehouse.createStatement()) {
            return statement.executeUpdate(sql);
        } catch (SQLException e) {
            throw new IllegalStateException(e);
        }
    }

    /** One text out of the warehouse; blank when there is none. */
    String text(String sql) {
        try (Statement statement = warehouse.createStatement();
                ResultSet rows = statement.executeQuery(sql)) {
            return rows.next() ? rows.getString(1) : "";
        } catch (SQLException e) {
            throw new IllegalStateException(e);
        }
    }

    /** Closes everything, but keeps what it left behind. */
    void leave() throws SQLException {
        if (isLeft) {
            return;
        }
        isLeft = true;
        server.ifPresent(RunningServer::close);
        purser.close();
        lamplight.close();
        foghorn.close();
        gangway.close();
        postbag.close();
        slipway.close();
        shop.close();
        warehouse.close();
    }

    @Override
    public void close() throws SQLException {
        leave();
        try (Connection connection = databases.owner("postgres");
                Statement statement = connection.createStatement()) {
            statement.execute("drop database if exists " + remittoDatabase + " with (force)");
            statement.execute("drop database if exists " + warehouseDatabase + " with (force)");
        }
    }
}
