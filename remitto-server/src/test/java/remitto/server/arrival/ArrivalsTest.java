package remitto.server.arrival;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import remitto.server.harness.Awaited;
import remitto.server.harness.TestFiles;
import remitto.server.harness.TestReceiver;
import remitto.server.harness.TestRoute;
import remitto.server.harness.TestServer;
import remitto.server.harness.TestUser;
import tools.jackson.databind.JsonNode;

/** Calls, files and reads stand in one list with what became of them, and rows are followed to people, audiences and destinations. */
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class ArrivalsTest {
    private static final Map<String, Object> COLUMNS =
            TestReceiver.definition(TestReceiver.OPEN, "id", "id INTEGER", "town TEXT", "email TEXT");

    private TestServer server;
    private TestUser editor;
    private TestRoute routes;
    private TestReceiver signUps;
    private int numbers;

    @BeforeAll
    void start() {
        server = TestServer.start();
        editor = server.user("EDITOR");
        routes = new TestRoute(server, editor);
        signUps = new TestReceiver(server, editor, "sign_ups", COLUMNS);
    }

    @AfterAll
    void stop() {
        server.close();
    }

    private List<JsonNode> arrivals(String asked) {
        return editor.get("/api/arrivals" + asked).ok().valueStream().toList();
    }

    private int call(String town, String email) {
        int id = ++numbers;
        signUps.call("{\"id\":" + id + ",\"town\":\"" + town + "\",\"email\":\"" + email + "\"}");
        signUps.settled();
        server.clock().forward(Duration.ofSeconds(1));
        return id;
    }

    private static String mark(JsonNode arrival) {
        return arrival.get("kind").asString() + " " + arrival.get("mark").asString();
    }

    private long dataset(long source, Map<String, Object> query, List<Map<String, Object>> expectations) {
        Map<String, Object> definition = new HashMap<>(TestRoute.definition(""));
        definition.put("query", query);
        definition.put("expectations", expectations);
        return TestRoute.dataset(editor, source, "Dataset " + System.nanoTime(), definition);
    }

    private static Map<String, Object> table(String name) {
        return Map.of("kind", "table", "schema", "landed", "table", name, "columns", List.of("id", "town", "email"));
    }

    @Test
    void callsStandWithTheirFirstCellsAndWhatBecameOfThem() {
        int id = call("Brevik", "ada@mail.example");
        signUps.call("{\"id\":" + id + ",\"town\":\"Holm\",\"email\":\"again@mail.example\"}");
        signUps.settled();
        signUps.call("{\"id\":\"nine\"}");
        signUps.settled();

        List<JsonNode> found = arrivals("?kind=CALL").subList(0, 3);

        assertThat(found).extracting(ArrivalsTest::mark).containsExactly("CALL HELD", "CALL DOUBLE", "CALL FITS");
        assertThat(found.get(2).get("first").valueStream().map(JsonNode::asString))
                .containsExactly(String.valueOf(id), "Brevik", "ada@mail.example");
        assertThat(found.get(2).get("subject").get("source").asString()).isNotBlank();
        assertThat(found.get(0).get("detail").asString()).contains("nine");
        assertThat(arrivals("?kind=CALL&troubled=true").subList(0, 2))
                .extracting(ArrivalsTest::mark)
                .containsExactly("CALL HELD", "CALL DOUBLE");
    }

    @Test
    void filesStandWithTheirRowsAndTheOnesThatAreHeld() {
        TestFiles files = new TestFiles(server, editor, "drops");
        files.put("a.csv", "id,town,email\n1,Lervik,ada@mail.example\n");
        files.put("b.csv", "id,town,email\ntwo,Vik,bo@mail.example\n3,Vik,bo@mail.example\n");
        long set = files.add(
                "drops", TestFiles.definition("*.csv", TestFiles.EACH_ADDS, "id INTEGER", "town TEXT", "email TEXT"));
        files.read(set);

        List<JsonNode> found = arrivals("?source=" + files.source());

        assertThat(found)
                .extracting(one -> mark(one) + " " + one.get("what").asString() + " "
                        + one.get("rows").asLong() + " " + one.get("detail").asString())
                .containsExactlyInAnyOrder("FILE FITS a.csv 1 ", "FILE HELD b.csv 1 1 row is held");
        assertThat(arrivals("?troubled=true&source=" + files.source())).hasSize(1);
        JsonNode fits = found.stream()
                .filter(one -> mark(one).equals("FILE FITS"))
                .findFirst()
                .orElseThrow();
        JsonNode opened =
                editor.get("/api/arrivals/FILE/" + fits.get("id").asLong()).ok();
        assertThat(opened.get("columns").valueStream().map(JsonNode::asString)).containsExactly("id", "town", "email");
        assertThat(opened.get("rows").get(0).get(1).asString()).isEqualTo("Lervik");
    }

    @Test
    void readsStandWithWhatIsNotAsExpected() {
        long dataset = dataset(
                routes.source(),
                Map.of("kind", "sql", "text", "select id, town, email from shop.customers"),
                List.of(Map.of("demand", Map.of("kind", "row-count", "least", 1_000_000), "response", "TELL")));
        long route = routes.add(editor, "Read " + dataset, dataset, TestRoute.spec(Optional.empty()));
        routes.prepare(route);

        JsonNode read = arrivals("?kind=READ").stream()
                .filter(one -> one.get("subject").get("id").asLong() == dataset
                        && one.get("what").asString().startsWith("read for route"))
                .findFirst()
                .orElseThrow();

        assertThat(mark(read)).isEqualTo("READ UNEXPECTED");
        assertThat(read.get("what").asString()).isEqualTo("read for route Read " + dataset);
        assertThat(read.get("detail").asString())
                .startsWith("Expected that the dataset has at least 1000000 rows. It has ");
        assertThat(arrivals("?kind=READ&troubled=true"))
                .extracting(one -> one.get("id").asLong())
                .contains(read.get("id").asLong());
    }

    @Test
    void olderOnesAreFoundByTheMomentOfTheOldestThatIsShown() {
        for (int i = 0; i < 3; i++) {
            call("Page", "page" + i + "@mail.example");
        }
        List<JsonNode> newest = arrivals("?kind=CALL");

        List<JsonNode> older =
                arrivals("?kind=CALL&before=" + newest.get(0).get("at").asString());

        assertThat(older.get(0).get("id").asLong())
                .isEqualTo(newest.get(1).get("id").asLong());
        assertThat(older)
                .noneMatch(
                        one -> one.get("id").asLong() == newest.get(0).get("id").asLong());
    }

    @Test
    void theSumsTellWhatCameInByTheHour() {
        TestReceiver counted = new TestReceiver(server, editor, "counted_calls", COLUMNS);
        for (int i = 0; i < 3; i++) {
            counted.call("{\"id\":" + i + ",\"town\":\"Brevik\",\"email\":\"c@mail.example\"}");
        }
        server.clock().forward(Duration.ofHours(2));
        counted.call("{\"id\":9,\"town\":\"Brevik\",\"email\":\"c@mail.example\"}");

        JsonNode sums = editor.get("/api/arrivals/sums")
                .ok()
                .get("subjects")
                .valueStream()
                .filter(one -> one.get("subject").get("id").asLong() == counted.id()
                        && one.get("kind").asString().equals("CALL"))
                .findFirst()
                .orElseThrow();

        assertThat(sums.get("arrivals").asLong()).isEqualTo(4);
        List<Long> hours = sums.get("hours").valueStream().map(JsonNode::asLong).toList();
        assertThat(hours).hasSize(24);
        assertThat(hours.get(23)).isEqualTo(1);
        assertThat(hours.get(21)).isEqualTo(3);
    }

    private JsonNode followed(int id) {
        long call = arrivals("?kind=CALL").stream()
                .filter(one -> one.get("first").path(0).asString("").equals(String.valueOf(id)))
                .findFirst()
                .orElseThrow()
                .get("id")
                .asLong();
        return editor.get("/api/arrivals/CALL/" + call).ok();
    }

    @Test
    void aCallIsFollowedToItsPersonAndToTheDestination() {
        long dataset = dataset(signUps.source(), table("sign_ups"), List.of());
        int id = call("Sund", "followed@mail.example");
        JsonNode before = followed(id)
                .get("records")
                .valueStream()
                .filter(one -> one.get("datasetId").asLong() == dataset)
                .findFirst()
                .orElseThrow();
        assertThat(before.get("key").asString()).isEqualTo(String.valueOf(id));
        assertThat(before.has("person")).isFalse();
        assertThat(before.get("records")).isEmpty();

        List<JsonNode> columns = editor.get("/api/people/sources/" + dataset + "/suggestion")
                .ok()
                .get("columns")
                .valueStream()
                .toList();
        editor.put(
                        "/api/people/sources/" + dataset,
                        Map.of("entityType", "PERSON", "columns", columns, "country", "NO", "countryColumn", ""))
                .ok();
        long run = editor.post("/api/people/runs", Map.of()).ok().get("runId").asLong();
        Awaited.value(
                "matching to end",
                () -> editor.get("/api/people/overview").ok().get("latest"),
                latest -> latest.get("id").asLong() == run && latest.has("finishedAt"));
        long route = routes.add(editor, "Followed", dataset, TestRoute.spec(Optional.empty()));
        routes.run(route);

        JsonNode after = followed(id)
                .get("records")
                .valueStream()
                .filter(one -> one.get("datasetId").asLong() == dataset)
                .findFirst()
                .orElseThrow();

        assertThat(after.get("person").asLong()).isPositive();
        assertThat(after.get("records")).singleElement().satisfies(reached -> {
            assertThat(reached.get("route").asString()).isEqualTo("Followed");
            assertThat(reached.get("remoteId").asString()).isEqualTo(String.valueOf(id));
            assertThat(reached.get("held").asString()).isEmpty();
        });
    }

    @Test
    void valuesAreMaskedForWhoeverMayNotSeeThem() {
        int id = call("Hidden Cove", "hidden@mail.example");
        TestUser viewer = server.user("VIEWER");

        String listed = viewer.get("/api/arrivals?kind=CALL").ok().toString();

        assertThat(listed).doesNotContain("Hidden Cove").doesNotContain("hidden@mail.example");
        long call = followed(id).get("arrival").get("id").asLong();
        assertThat(viewer.get("/api/arrivals/CALL/" + call).ok().toString())
                .doesNotContain("Hidden Cove")
                .doesNotContain("hidden@mail.example");
    }

    @Test
    void cellsOfSensitiveColumnsAreNotAmongTheFirstAndAreMaskedInTheRows() {
        TestReceiver secret = new TestReceiver(
                server,
                editor,
                "secret_calls",
                TestReceiver.definition(TestReceiver.OPEN, "id", "id INTEGER", "town TEXT"));
        secret.call("{\"id\":1,\"town\":\"Concealed Bay\"}");
        secret.settled();
        TestRoute.dataset(
                editor,
                secret.source(),
                "Secret calls",
                Map.of(
                        "query",
                        Map.of(
                                "kind",
                                "table",
                                "schema",
                                "landed",
                                "table",
                                "secret_calls",
                                "columns",
                                List.of("id", "town")),
                        "columns",
                        List.of(
                                Map.of("name", "id", "type", "INTEGER", "role", "KEY"),
                                Map.of("name", "town", "type", "TEXT", "role", "SENSITIVE"))));

        JsonNode listed = arrivals("?source=" + secret.source()).get(0);

        assertThat(listed.get("first").valueStream().map(JsonNode::asString)).containsExactly("1");
        assertThat(editor.get("/api/arrivals/CALL/" + listed.get("id").asLong())
                        .ok()
                        .toString())
                .doesNotContain("Concealed Bay");
    }

    @Test
    void anArrivalThatIsNotThereIsNotFound() {
        assertThat(editor.get("/api/arrivals/CALL/999999999").status()).isEqualTo(404);
        assertThat(editor.get("/api/arrivals?kind=PIGEON").status()).isEqualTo(400);
    }
}
