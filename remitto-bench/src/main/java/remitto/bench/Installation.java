package remitto.bench;

import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import remitto.demo.Databases;
import remitto.demo.history.Api;
import remitto.demo.history.RunningServer;
import remitto.demo.history.Scenario;

/** The server in this process, on databases of its own, beside a warehouse; somebody is signed in. */
final class Installation implements AutoCloseable {
    private static final String OWN = "remitto_bench";
    private static final String WAREHOUSE = "warehouse_bench";
    private static final String PASSWORD = "bench-2026-bench";

    final Databases databases;
    final Path folder;
    final RunningServer server;
    final Api api;
    private final boolean stays;

    private Installation(Databases databases, Path folder, Path key, boolean stays) {
        this.databases = databases;
        this.folder = folder;
        this.stays = stays;
        Map<String, Object> properties = new HashMap<>();
        properties.put("spring.datasource.url", databases.url(OWN));
        properties.put("spring.datasource.username", "remitto");
        properties.put("spring.datasource.password", databases.password());
        properties.put("remitto.people-reader.password", databases.password());
        properties.put("remitto.outgoing-allowed", "127.0.0.1,localhost");
        properties.put("remitto.secret-key-file", key);
        properties.put("remitto.administrator.email", "admin@halvorn.example");
        properties.put("remitto.administrator.password", PASSWORD);
        server = RunningServer.start(properties);
        api = new Api(server.address()).signIn("admin@halvorn.example", PASSWORD);
    }

    /** What a warehouse is filled with before anything reads it. */
    interface Filling {
        void into(Connection warehouse) throws Exception;
    }

    /** Empty, beside a warehouse that is filled; all of it is dropped at the end. */
    static Installation fresh(Filling filling) throws Exception {
        Databases databases = given();
        make(databases, filling);
        Path folder = Files.createTempDirectory("remitto-bench");
        return new Installation(databases, folder, folder.resolve("secret.key"), false);
    }

    /**
     * One that stays, with all that it sealed, so that another run can go on with it.
     *
     * @param filling absent to go on with the last
     */
    static Installation staying(Optional<Filling> filling) throws Exception {
        Databases databases = given();
        Path key = Path.of(System.getProperty("java.io.tmpdir"), "remitto-bench.key");
        if (filling.isPresent()) {
            make(databases, filling.get());
            Files.deleteIfExists(key);
        }
        return new Installation(databases, Files.createTempDirectory("remitto-bench"), key, true);
    }

    private static Databases given() {
        return new Databases(System.getenv("REMITTO_TEST_PG_URL"), System.getenv("REMITTO_TEST_PG_PASSWORD"));
    }

    private static void make(Databases databases, Filling filling) throws Exception {
        databases.fresh(OWN, "remitto");
        databases.fresh(WAREHOUSE, "halvorn_owner");
        databases.makePeopleReader();
        try (Connection warehouse = databases.owner(WAREHOUSE)) {
            filling.into(warehouse);
        }
        databases.grantReader(WAREHOUSE, "public");
    }

    /** The server's own database, past the server. */
    Connection own() throws SQLException {
        return databases.owner(OWN);
    }

    Connection warehouse() throws SQLException {
        return databases.owner(WAREHOUSE);
    }

    /**
     * Makes a source of the warehouse.
     *
     * @return its id
     */
    long source() {
        Map<String, Object> address = Map.of(
                "host",
                "127.0.0.1",
                "port",
                databases.port(),
                "database",
                WAREHOUSE,
                "user",
                Databases.READER,
                "tls",
                "OFF");
        return api.post(
                        "/api/sources",
                        Map.of("name", "Bench warehouse", "password", Databases.READER_PASSWORD, "address", address))
                .get("id")
                .asLong();
    }

    /**
     * Makes a dataset that is in service.
     *
     * @return its id
     */
    long dataset(long source, String name, String sql, String key) {
        return new Scenario(api).dataset(source, name, "", sql, Map.of(key, "KEY"));
    }

    /** Writes what is dirty out, so that a later part of a run does not pay for an earlier one. */
    void checkpoint() throws SQLException {
        try (Connection connection = databases.owner("postgres")) {
            execute(connection, "checkpoint");
        }
    }

    static void execute(Connection connection, String... statements) throws SQLException {
        try (Statement statement = connection.createStatement()) {
            for (String sql : statements) {
                statement.execute(sql);
            }
        }
    }

    @Override
    public void close() throws SQLException {
        server.close();
        if (!stays) {
            try (Connection connection = databases.owner("postgres")) {
                for (String database : List.of(OWN, WAREHOUSE)) {
                    execute(connection, "drop database if exists " + database + " with (force)");
                }
            }
        }
    }
}
