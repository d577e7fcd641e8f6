package remitto.bench;

import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import remitto.core.fieldrule.FieldRule;
import remitto.core.fieldrule.Receives;
import remitto.core.guard.Guards;
import remitto.core.route.Basis;
import remitto.core.route.FirstRun;
import remitto.core.route.Mode;
import remitto.core.route.RouteSpec;
import remitto.core.shaper.LowerCase;
import remitto.core.shaper.Shaper;
import remitto.core.shaper.Trim;
import remitto.core.timetable.Schedule;
import remitto.demo.Databases;
import remitto.demo.history.Api;
import remitto.demo.history.RunningServer;
import tools.jackson.databind.JsonNode;

/** A server on databases of its own, a source table of twelve columns, and a route over it. */
final class Rig implements AutoCloseable {
    static final List<String> COLUMNS = List.of(
            "id",
            "given",
            "family",
            "email",
            "mobile",
            "country",
            "port",
            "status",
            "trips",
            "score",
            "last_trip",
            "changed_at");
    static final String SQL = "select " + String.join(", ", COLUMNS) + " from public.people";
    private static final String PASSWORD = "bench-2026-bench";

    final Databases databases;
    final RunningServer server;
    final Api api;
    final Path folder;
    long routeId;

    Rig(int rows) throws Exception {
        databases = new Databases(System.getenv("REMITTO_TEST_PG_URL"), System.getenv("REMITTO_TEST_PG_PASSWORD"));
        databases.fresh("remitto_bench", "remitto");
        databases.fresh("warehouse_bench", "halvorn_owner");
        folder = Files.createTempDirectory("remitto-bench");
        try (Connection connection = databases.owner("warehouse_bench");
                Statement statement = connection.createStatement()) {
            statement.execute("create table public.people as select 'P-' || n as id,"
                    + " (array['Ingrid','Aksel','Mina','Jonas','Liv'])[1 + n % 5] as given, 'Solvang' || n % 4000 as family,"
                    + " 'p' || n || '@sol.example' as email, '+4791' || lpad((n % 1000000)::text, 6, '0') as mobile, 'NO' as country,"
                    + " (array['Tarva','Brenn','Lysøy'])[1 + n % 3] as port, 'current' as status, (n % 40)::int as trips,"
                    + " (n % 1000 / 10.0)::numeric(5,1) as score, date '2026-01-01' + (n % 300)::int as last_trip,"
                    + " timestamptz '2026-11-01 00:00:00+00' + n * interval '1 second' as changed_at"
                    + " from generate_series(1, " + rows + ") as n");
            statement.execute("analyze public.people");
        }
        databases.grantReader("warehouse_bench", "public");
        Map<String, Object> properties = new HashMap<>();
        properties.put("spring.datasource.url", databases.url("remitto_bench"));
        properties.put("remitto.outgoing-allowed", "127.0.0.1,localhost");
        properties.put("spring.datasource.username", "remitto");
        properties.put("spring.datasource.password", databases.password());
        properties.put("remitto.secret-key-file", folder.resolve("secret.key"));
        properties.put("remitto.administrator.email", "admin@halvorn.example");
        properties.put("remitto.administrator.password", PASSWORD);
        server = RunningServer.start(properties);
        api = new Api(server.address()).signIn("admin@halvorn.example", PASSWORD);
    }

    /** Sets up source, dataset, destination and route, the limits of the destination switched off. */
    void setUp(String purser) {
        setUp(purser, true);
    }

    /** @param limitsOff calls are not paced */
    void setUp(String purser, boolean limitsOff) {
        long source = id(api.post(
                "/api/sources",
                Map.of(
                        "name",
                        "Bench warehouse",
                        "password",
                        Databases.READER_PASSWORD,
                        "address",
                        Map.of(
                                "host",
                                "127.0.0.1",
                                "port",
                                databases.port(),
                                "database",
                                "warehouse_bench",
                                "user",
                                Databases.READER,
                                "tls",
                                "OFF"))));
        long destination = id(api.post(
                "/api/destinations",
                Map.of(
                        "name",
                        "Purser CRM",
                        "profile",
                        "purser-crm",
                        "limitsOff",
                        limitsOff,
                        "settings",
                        Map.of(
                                "base_address",
                                purser,
                                "client_id",
                                "remitto-demo",
                                "client_secret",
                                "gangplank-7731"))));
        Map<String, Object> query = Map.of("kind", "sql", "text", SQL);
        List<Map<String, String>> columns = new ArrayList<>();
        api.post("/api/datasets/preview", Map.of("sourceId", source, "query", query))
                .get("preview")
                .get("columns")
                .forEach(column -> columns.add(Map.of(
                        "name", column.get("name").asString(),
                        "type", column.get("type").asString(),
                        "role", column.get("name").asString().equals("id") ? "KEY" : "ATTRIBUTE")));
        long dataset = id(api.post(
                "/api/datasets",
                Map.of(
                        "name",
                        "People",
                        "description",
                        "",
                        "sourceId",
                        source,
                        "basedOn",
                        0,
                        "definition",
                        Map.of("query", query, "columns", columns))));
        api.post("/api/datasets/" + dataset + "/in-service", Map.of("version", 1));
        routeId = id(api.post(
                "/api/routes",
                Map.of(
                        "name",
                        "Bench",
                        "spec",
                        spec(),
                        "ends",
                        Map.of("datasetId", dataset, "destinationId", destination, "object", "contact"))));
        api.post("/api/routes/" + routeId + "/in-service", Map.of("version", 1));
    }

    private static RouteSpec spec() {
        return RouteSpec.of(
                        Mode.ADD_OR_UPDATE,
                        List.of("external_ref"),
                        List.of(
                                from("external_ref", "id"),
                                from("given_name", "given", new Trim()),
                                from("family_name", "family", new Trim()),
                                from("email", "email", new Trim(), new LowerCase()),
                                from("mobile", "mobile"),
                                from("country", "country"),
                                from("home_port", "port"),
                                from("pass_status", "status"),
                                from("crossings_90d", "trips"),
                                from("churn_score", "score"),
                                from("last_crossing", "last_trip")),
                        new Basis.Stated("benchmark"),
                        Guards.defaults(),
                        new Schedule.ByHand("UTC"))
                .firstRun(FirstRun.AlreadyThere.ADOPT, FirstRun.OlderRows.SEND);
    }

    private static FieldRule from(String field, String column, Shaper... shapers) {
        return FieldRule.of(field, new Receives.FromColumn(column), shapers);
    }

    /** Draws up a manifest and waits for it. */
    JsonNode draw() {
        return api.await(api.post("/api/routes/" + routeId + "/runs", Map.of())
                .get("runId")
                .asLong());
    }

    /** As if nothing had been drawn up or sent yet. */
    void forgetRuns() throws SQLException {
        forgetKnownState();
        try (Connection connection = databases.owner("remitto_bench");
                Statement statement = connection.createStatement()) {
            statement.execute("truncate manifest_line, line_outcome");
        }
    }

    /** Makes the route meet every record for the first time again. */
    void forgetKnownState() throws SQLException {
        try (Connection connection = databases.owner("remitto_bench");
                Statement statement = connection.createStatement()) {
            statement.execute("truncate route_record, record_state, destination_record");
        }
    }

    /** Writes what is dirty out, so that a later part of a run does not pay for an earlier one. */
    void checkpoint() throws SQLException {
        try (Connection connection = databases.owner("postgres");
                Statement statement = connection.createStatement()) {
            statement.execute("checkpoint");
        }
    }

    private static long id(JsonNode created) {
        return created.get("id").asLong();
    }

    @Override
    public void close() throws SQLException {
        server.close();
        try (Connection connection = databases.owner("postgres");
                Statement statement = connection.createStatement()) {
            statement.execute("drop database if exists remitto_bench with (force)");
            statement.execute("drop database if exists warehouse_bench with (force)");
        }
    }
}
