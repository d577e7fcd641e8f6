package remitto.server.harness;

import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import remitto.core.fieldrule.FieldRule;
import remitto.core.fieldrule.Receives;
import remitto.core.guard.Guards;
import remitto.core.guard.Limit;
import remitto.core.route.Basis;
import remitto.core.route.FirstRun;
import remitto.core.route.Leavers;
import remitto.core.route.Mode;
import remitto.core.route.RouteSpec;
import remitto.core.timetable.Schedule;
import tools.jackson.databind.JsonNode;

/** A route from the shop's customers to a table of the same database, set up through the API as a person would. */
public final class TestRoute {
    private final TestServer server;
    private final TestUser editor;
    private final long source;
    private final long destination;
    private final long dataset;

    /** Connects source and destination as the editor, and saves the dataset; an administrator lets the destination in. */
    public TestRoute(TestServer server, TestUser editor) {
        this.server = server;
        this.editor = editor;
        server.warehouse().run("""
                create schema if not exists mail;
                create table if not exists mail.recipients (id int primary key, town text, email text);
                grant usage on schema mail to shop_writer;
                grant select, insert, update, delete on all tables in schema mail to shop_writer;
                """);
        source = server.warehouse().connect(editor, "Shop", "shop_reader");
        destination = connect(editor);
        letIn();
        dataset = dataset(editor, "Customers", "select id, town, email from shop.customers");
    }

    /** Connects the tables as a destination, under a name that is free. */
    public long connect(TestUser who) {
        String name = "Tables " + System.nanoTime();
        return who.post(
                        "/api/destinations",
                        Map.of(
                                "name",
                                name,
                                "profile",
                                "database-table",
                                "limitsOff",
                                true,
                                "settings",
                                settings("127.0.0.1")))
                .ok()
                .get("id")
                .asLong();
    }

    public Map<String, String> settings(String host) {
        return Map.of(
                "base_address",
                "postgresql://" + host + ":" + server.cluster().port() + "/"
                        + server.warehouse().database() + "?sslmode=disable",
                "user",
                "shop_writer",
                "password",
                server.cluster().password(),
                "schema",
                "mail");
    }

    public void letIn() {
        TestUser admin = server.admin();
        JsonNode state =
                admin.get("/api/destinations/" + destination + "/origins").ok();
        admin.post("/api/destinations/" + destination + "/let-in", Map.of("origins", state.get("origins")))
                .ok();
    }

    public long source() {
        return source;
    }

    public long destination() {
        return destination;
    }

    public long dataset() {
        return dataset;
    }

    /** A dataset with the key {@code id}, in service. */
    public long dataset(TestUser who, String name, String sql) {
        return dataset(who, name, definition(sql));
    }

    /** @param roles of its columns by name; {@code id} is a whole number, all others are texts */
    public long dataset(TestUser who, String name, String sql, Map<String, String> roles) {
        List<Map<String, String>> columns = new ArrayList<>();
        new TreeMap<>(roles)
                .forEach((column, role) -> columns.add(
                        Map.of("name", column, "type", column.equals("id") ? "INTEGER" : "TEXT", "role", role)));
        return dataset(who, name, Map.of("query", Map.of("kind", "sql", "text", sql), "columns", columns));
    }

    private long dataset(TestUser who, String name, Map<String, Object> definition) {
        return dataset(who, source, name, definition);
    }

    /** A dataset of any source by its whole definition, in service. */
    public static long dataset(TestUser who, long source, String name, Map<String, Object> definition) {
        long id = who.post(
                        "/api/datasets",
                        Map.of(
                                "name",
                                name,
                                "description",
                                "",
                                "sourceId",
                                source,
                                "basedOn",
                                0,
                                "definition",
                                definition))
                .ok()
                .get("id")
                .asLong();
        who.post("/api/datasets/" + id + "/in-service", Map.of("version", 1)).ok();
        return id;
    }

    public static Map<String, Object> definition(String sql) {
        return Map.of(
                "query",
                Map.of("kind", "sql", "text", sql),
                "columns",
                List.of(
                        Map.of("name", "id", "type", "INTEGER", "role", "KEY"),
                        Map.of("name", "town", "type", "TEXT", "role", "ATTRIBUTE"),
                        Map.of("name", "email", "type", "TEXT", "role", "IDENTIFIER")));
    }

    /** Rules that keep the table equal to the dataset, with a limit on removals in percent; none when absent. */
    public static RouteSpec spec(Optional<BigDecimal> removals) {
        return RouteSpec.of(
                        Mode.KEEP_EQUAL,
                        List.of("id"),
                        List.of(
                                FieldRule.of("id", new Receives.FromColumn("id")),
                                FieldRule.of("town", new Receives.FromColumn("town")),
                                FieldRule.of("email", new Receives.FromColumn("email"))),
                        new Basis.NotStated(),
                        Guards.none().removed(new Limit(removals, Optional.empty())),
                        new Schedule.ByHand("Europe/Oslo"))
                .leavers(new Leavers.Delete())
                .firstRun(FirstRun.AlreadyThere.ADOPT, FirstRun.OlderRows.SEND);
    }

    /** Rules of a route that only adds, to a tool that looks nothing up. */
    public static RouteSpec events(List<FieldRule> rules) {
        return RouteSpec.of(
                        Mode.ADD_ONLY,
                        List.of("ref"),
                        rules,
                        new Basis.NotStated(),
                        Guards.none(),
                        new Schedule.ByHand("Europe/Oslo"))
                .firstRun(FirstRun.AlreadyThere.ADOPT, FirstRun.OlderRows.SEND);
    }

    /** The same rules without a limit, for a route that waits for others. */
    public static RouteSpec after(List<Long> routes) {
        RouteSpec spec = spec(Optional.empty());
        return new RouteSpec(
                spec.mode(),
                spec.match(),
                spec.rules(),
                spec.basis(),
                spec.guards(),
                spec.schedule(),
                spec.leavers(),
                spec.firstRun(),
                spec.waves(),
                routes,
                spec.joined());
    }

    /** Saves a route and puts it in service. */
    public long add(TestUser who, String name, RouteSpec spec) {
        return add(who, name, dataset, spec);
    }

    /** The same over another dataset. */
    public long add(TestUser who, String name, long dataset, RouteSpec spec) {
        long id = who.post(
                        "/api/routes",
                        Map.of(
                                "name",
                                name,
                                "ends",
                                Map.of("datasetId", dataset, "destinationId", destination, "object", "recipients"),
                                "spec",
                                spec))
                .ok()
                .get("id")
                .asLong();
        who.post("/api/routes/" + id + "/in-service", Map.of("version", 1)).ok();
        return id;
    }

    /** Saves the next version. @return its number */
    public int save(TestUser who, long route, RouteSpec spec) {
        JsonNode now = who.get("/api/routes/" + route).ok();
        return who.post(
                        "/api/routes/" + route + "/versions",
                        Map.of(
                                "name",
                                now.get("name").asString(),
                                "basedOn",
                                now.get("latestVersion").asInt(),
                                "note",
                                "",
                                "spec",
                                spec))
                .ok()
                .get("latestVersion")
                .asInt();
    }

    /** Prepares a manifest and waits until it is ready. */
    public JsonNode prepare(long route) {
        long run = editor.post("/api/routes/" + route + "/runs", Map.of())
                .ok()
                .get("runId")
                .asLong();
        return await(run);
    }

    /** Waits until a run is neither prepared nor sent. */
    public JsonNode await(long run) {
        return Awaited.value(
                "run " + run + " is neither prepared nor sent",
                () -> editor.get("/api/runs/" + run).ok(),
                seen -> !List.of("PREPARING", "SENDING")
                        .contains(seen.get("state").asString()));
    }

    /** Prepares a manifest and sends it, if there is anything to send. */
    public JsonNode run(long route) {
        JsonNode prepared = prepare(route);
        if (prepared.get("state").asString().equals("SENT")) {
            return prepared;
        }
        long id = prepared.get("id").asLong();
        editor.post("/api/runs/" + id + "/send", Map.of()).ok();
        return await(id);
    }
}
