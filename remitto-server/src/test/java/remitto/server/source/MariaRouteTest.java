package remitto.server.source;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import remitto.core.fieldrule.DatasetLookUp;
import remitto.core.fieldrule.FieldRule;
import remitto.core.fieldrule.Receives;
import remitto.core.route.RouteSpec;
import remitto.server.harness.TestMariaDb;
import remitto.server.harness.TestRoute;
import remitto.server.harness.TestServer;
import remitto.server.harness.TestUser;
import tools.jackson.databind.JsonNode;

/** A hotel's guests in MariaDB, from the connection to the value in a destination. */
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class MariaRouteTest {
    private TestMariaDb hotel;
    private TestServer server;
    private TestUser editor;
    private TestRoute routes;

    @BeforeAll
    void start() {
        hotel = TestMariaDb.start();
        server = TestServer.start();
        editor = server.user("EDITOR");
        routes = new TestRoute(server, editor);
    }

    @AfterAll
    void stop() {
        server.close();
        hotel.close();
    }

    @BeforeEach
    void fill() {
        hotel.run("""
                create or replace database hotel character set utf8mb4 collate utf8mb4_general_ci;
                create table hotel.guests (
                  id bigint unsigned primary key, town varchar(80), email varchar(200), seen timestamp(3) null);
                create table hotel.`room types` (town varchar(80), `nice name` varchar(80));
                set time_zone = '+02:00';
                insert into hotel.guests values
                  (1, 'Lervik', 'Ada@mail.example', '2026-06-01 10:00:00.250'),
                  (2, 'lervik', 'bo@mail.example', '2026-06-01 09:00:00'),
                  (3, 'Stavern', null, null);
                insert into hotel.`room types` values ('Lervik', 'by the quay'), ('lervik', 'in small letters');
                """);
        hotel.login("hotel_reader", "select, show view on hotel.*");
    }

    private Map<String, Object> address(String user) {
        Map<String, Object> address = new HashMap<>();
        address.put("dialect", "mariadb");
        address.put("host", "127.0.0.1");
        address.put("port", hotel.port());
        address.put("database", "hotel");
        address.put("user", user);
        address.put("tls", "OFF");
        return address;
    }

    private JsonNode connect(String name, String user) {
        return editor.post(
                        "/api/sources",
                        Map.of("name", name, "address", address(user), "password", TestMariaDb.PASSWORD))
                .ok();
    }

    private long dataset(long source, String name, Map<String, Object> query, List<Map<String, String>> columns) {
        long id = editor.post(
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
                                Map.of("query", query, "columns", columns)))
                .ok()
                .get("id")
                .asLong();
        editor.post("/api/datasets/" + id + "/in-service", Map.of("version", 1)).ok();
        return id;
    }

    private static Map<String, String> column(String name, String type, String role) {
        return Map.of("name", name, "type", type, "role", role);
    }

    private static Map<String, Object> sql(String text) {
        return Map.of("kind", "sql", "text", text);
    }

    private long guests(long source) {
        return dataset(
                source,
                "Guests " + System.nanoTime(),
                sql("select id, town, email, seen from guests # everybody"),
                List.of(
                        column("id", "INTEGER", "KEY"),
                        column("town", "TEXT", "ATTRIBUTE"),
                        column("email", "TEXT", "IDENTIFIER"),
                        column("seen", "TIMESTAMP", "UPDATED_AT")));
    }

    private String there(int id) {
        return server.cluster()
                .text(
                        server.warehouse().database(),
                        "select coalesce(string_agg(town || ' ' || coalesce(email, 'no address'), ', '), 'nothing')"
                                + " from mail.recipients where id = " + id);
    }

    @Test
    void rowsOfMariaDbArriveAndFollowTheirChanges() {
        JsonNode source = connect("Hotel", "hotel_reader");
        assertThat(source.get("problem").asString()).isEmpty();
        assertThat(source.get("product").asString()).isEqualTo("MariaDB");
        assertThat(source.get("report").get("warnings")).isEmpty();
        assertThat(source.get("report").get("server").asString()).startsWith("MariaDB 1");
        long id = source.get("id").asLong();
        long guests = guests(id);
        long rooms = dataset(
                id,
                "Rooms",
                Map.of(
                        "kind",
                        "table",
                        "schema",
                        "hotel",
                        "table",
                        "room types",
                        "columns",
                        List.of("town", "nice name"),
                        "filter",
                        "`nice name` <> 'none' # all of them"),
                List.of(column("town", "TEXT", "KEY"), column("nice name", "TEXT", "ATTRIBUTE")));
        JsonNode fresh =
                editor.post("/api/datasets/" + guests + "/freshness", Map.of()).ok();
        assertThat(fresh.get("freshness").get("rows").asLong()).isEqualTo(3);
        assertThat(fresh.get("freshness").get("newestRow").asString()).isEqualTo("2026-06-01T08:00:00.250Z");

        RouteSpec plain = TestRoute.spec(Optional.empty());
        RouteSpec spec = new RouteSpec(
                plain.mode(),
                plain.match(),
                List.of(
                        FieldRule.of("id", new Receives.FromColumn("id")),
                        FieldRule.of(
                                "town",
                                new Receives.FromDataset(
                                        DatasetLookUp.of(rooms, "town", "nice name"),
                                        "town",
                                        Receives.IfMany.UNUSABLE)),
                        FieldRule.of("email", new Receives.FromColumn("email"))),
                plain.basis(),
                plain.guards(),
                plain.schedule(),
                plain.leavers(),
                plain.firstRun(),
                plain.waves(),
                plain.after(),
                plain.joined());
        long route = routes.add(editor, "Guests to tables", guests, spec);
        assertThat(routes.run(route).get("state").asString()).isEqualTo("SENT");
        assertThat(there(1)).isEqualTo("by the quay Ada@mail.example");
        assertThat(there(2)).as("small letters are others").isEqualTo("in small letters bo@mail.example");

        hotel.run(
                "update hotel.guests set email = 'ada@new.example' where id = 1; delete from hotel.guests where id = 2");
        JsonNode again = routes.run(route);
        assertThat(again.get("counts").get("changed").asLong()).isEqualTo(1);
        assertThat(again.get("counts").get("removed").asLong()).isEqualTo(1);
        assertThat(there(1)).isEqualTo("by the quay ada@new.example");
        assertThat(there(2)).isEqualTo("nothing");
        JsonNode explained = editor.get("/api/routes/" + route + "/explain?key=1&field=email")
                .ok();
        assertThat(explained.toString()).contains("ada@new.example");
    }

    @Test
    void aDefinitionIsLookedAtByItsOwnDialect() {
        long source = connect("Hotel to look at", "hotel_reader").get("id").asLong();
        assertThat(editor.post(
                                "/api/datasets/preview",
                                Map.of(
                                        "sourceId",
                                        source,
                                        "query",
                                        sql("select `id` from guests where town = \"Lervik\" -- "
                                                + "\n# '\norder by id")))
                        .ok()
                        .get("preview")
                        .get("rows"))
                .hasSize(2);
        JsonNode check = editor.post(
                        "/api/datasets/check-key",
                        Map.of("sourceId", source, "query", sql("select town from guests"), "keys", List.of("town")))
                .ok();
        assertThat(check.toString()).as("towns in other letters are others").contains("\"doubled\":0");
        TestUser.Answer open = editor.post(
                "/api/datasets/preview", Map.of("sourceId", source, "query", sql("select `id from guests")));
        assertThat(open.status()).isEqualTo(422);
        assertThat(open.text()).contains("A quote is never closed");
        TestUser.Answer hidden = editor.post(
                "/api/datasets/preview", Map.of("sourceId", source, "query", sql("select /*! 1 as */ id from guests")));
        assertThat(hidden.text()).contains("would run what this comment holds");
    }

    @Test
    void aLoginThatMayWriteIsNotReadThroughUntilSomebodyAnswersForIt() {
        hotel.login("hotel_owner", "all on hotel.*");
        JsonNode source = connect("Hotel's owner", "hotel_owner");
        assertThat(source.get("report").get("warnings").toString()).contains("may write to hotel.guests");
        long id = source.get("id").asLong();
        Map<String, Object> preview = Map.of("sourceId", id, "query", sql("select id from guests"));
        assertThat(editor.post("/api/datasets/preview", preview).text()).contains("may do more than read");
        server.admin()
                .post("/api/sources/" + id + "/accept-login", Map.of("reason", "until Friday"))
                .ok();
        assertThat(editor.post("/api/datasets/preview", preview)
                        .ok()
                        .get("preview")
                        .get("rows"))
                .hasSize(3);
    }

    @Test
    void anotherKindOfDatabaseWantsItsPasswordAgain() {
        long id = connect("Hotel that moves", "hotel_reader").get("id").asLong();
        Map<String, Object> moved = address("hotel_reader");
        moved.remove("dialect");
        TestUser.Answer answer = editor.put("/api/sources/" + id, Map.of("name", "Hotel that moves", "address", moved));
        assertThat(answer.status()).isEqualTo(422);
        assertThat(answer.text()).contains("given for mariadb hotel_reader@127.0.0.1");
        moved.put("dialect", "stone-tablets");
        assertThat(editor.put(
                                "/api/sources/" + id,
                                Map.of("name", "Hotel that moves", "address", moved, "password", "x"))
                        .text())
                .contains("No dialect is called stone-tablets; there are postgresql, mariadb");
    }

    @Test
    void aServerThatIsNoMariaDbIsSaidSo() {
        Map<String, Object> address = address("hotel_reader");
        address.put("port", server.cluster().port());
        JsonNode source = editor.post(
                        "/api/sources", Map.of("name", "Not a hotel", "address", address, "password", "x"))
                .ok();
        assertThat(source.get("problem").asString()).contains("did not answer");
    }
}
