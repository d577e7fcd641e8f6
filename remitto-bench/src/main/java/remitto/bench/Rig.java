package remitto.bench;

import java.nio.file.Path;
import java.sql.Connection;
import java.sql.SQLException;
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
    /** The tables that say what is known of a route's records. */
    private static final List<String> KNOWN = List.of("route_record", "record_state", "destination_record");

    final Databases databases;
    final RunningServer server;
    final Api api;
    final Path folder;
    private final Installation installation;
    long source;
    long routeId;

    Rig(int rows) throws Exception {
        installation = Installation.fresh(warehouse -> people(warehouse, rows));
        databases = installation.databases;
        server = installation.server;
        api = installation.api;
        folder = installation.folder;
    }

    private static void people(Connection warehouse, int rows) throws SQLException {
        Installation.execute(
                warehouse,
                "create table public.people as select 'P-' || n as id,"
                        + " (array['Ingrid','Aksel','Mina','Jonas','Liv'])[1 + n % 5] as given, 'Solvang' || n % 4000 as family,"
                        + " 'p' || n || '@sol.example' as email, '+4791' || lpad((n % 1000000)::text, 6, '0') as mobile, 'NO' as country,"
                        + " (array['Tarva','Brenn','Lysøy'])[1 + n % 3] as port, 'current' as status, (n % 40)::int as trips,"
                        + " (n % 1000 / 10.0)::numeric(5,1) as score, date '2026-01-01' + (n % 300)::int as last_trip,"
                        + " timestamptz '2026-11-01 00:00:00+00' + n * interval '1 second' as changed_at"
                        + " from generate_series(1, " + rows + ") as n",
                "analyze public.people");
    }

    /** Does something to the tables that the source reads. */
    void inWarehouse(String... statements) throws SQLException {
        try (Connection connection = installation.warehouse()) {
            Installation.execute(connection, statements);
        }
    }

    /** A dataset over the same warehouse; the source is there once {@link #setUp} was called. */
    long dataset(String name, String sql, String key) throws SQLException {
        databases.grantReader("warehouse_bench", "public");
        return installation.dataset(source, name, sql, key);
    }

    /** Sets up source, dataset, destination and route, the limits of the destination switched off. */
    void setUp(String purser) {
        setUp(purser, true);
    }

    /** @param limitsOff calls are not paced */
    void setUp(String purser, boolean limitsOff) {
        source = installation.source();
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
        long dataset = installation.dataset(source, "People", SQL, "id");
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
                        Guards.none(),
                        new Schedule.ByHand("UTC"))
                .firstRun(FirstRun.AlreadyThere.ADOPT, FirstRun.OlderRows.SEND);
    }

    private static FieldRule from(String field, String column, Shaper... shapers) {
        return FieldRule.of(field, new Receives.FromColumn(column), shapers);
    }

    /** Prepares a manifest and waits for it. */
    JsonNode prepare() {
        return api.await(api.post("/api/routes/" + routeId + "/runs", Map.of())
                .get("runId")
                .asLong());
    }

    /** As if nothing had been prepared or sent yet. */
    void forgetRuns() throws SQLException {
        forgetKnownState();
        inOwn("truncate manifest_line, line_outcome");
    }

    /** Makes the route meet every record for the first time again. */
    void forgetKnownState() throws SQLException {
        inOwn("truncate " + String.join(", ", KNOWN));
    }

    /** Remembers what is known of the records now. */
    void keepKnownState() throws SQLException {
        for (String table : KNOWN) {
            inOwn("create table kept_" + table + " as table " + table);
        }
    }

    /** As if nothing had been prepared or sent since what is known was kept. */
    void backToKept() throws SQLException {
        forgetRuns();
        for (String table : KNOWN) {
            inOwn("insert into " + table + " overriding system value table kept_" + table, "analyze " + table);
        }
    }

    private void inOwn(String... statements) throws SQLException {
        try (Connection connection = installation.own()) {
            Installation.execute(connection, statements);
        }
    }

    void checkpoint() throws SQLException {
        installation.checkpoint();
    }

    private static long id(JsonNode created) {
        return created.get("id").asLong();
    }

    @Override
    public void close() throws SQLException {
        installation.close();
    }
}
