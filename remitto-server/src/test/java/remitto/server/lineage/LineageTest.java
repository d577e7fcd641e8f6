package remitto.server.lineage;

import static org.assertj.core.api.Assertions.assertThat;

import com.sun.net.httpserver.HttpExchange;
import com.sun.net.httpserver.HttpServer;
import io.openlineage.client.OpenLineage;
import io.openlineage.client.OpenLineageClientUtils;
import java.io.IOException;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.CopyOnWriteArrayList;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import remitto.core.fieldrule.FieldConsent;
import remitto.core.fieldrule.FieldRule;
import remitto.core.fieldrule.Receives;
import remitto.core.route.RouteSpec;
import remitto.core.shaper.LowerCase;
import remitto.core.shaper.Sha256;
import remitto.server.harness.Awaited;
import remitto.server.harness.TestRoute;
import remitto.server.harness.TestServer;
import remitto.server.harness.TestUser;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/**
 * Events as a collector gets them. They are read by the model that the OpenLineage project generates from its JSON Schema (openlineage-java
 * 1.39.0); the schema itself is not in any registry that the build reaches.
 */
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class LineageTest {
    private static final JsonMapper JSON = JsonMapper.builder().build();

    private final List<String> events = new CopyOnWriteArrayList<>();
    private final List<String> keys = new CopyOnWriteArrayList<>();
    private volatile int answers = 200;
    private HttpServer collector;
    private TestServer server;
    private TestUser editor;
    private TestRoute route;

    @BeforeAll
    void start() throws IOException {
        collector = HttpServer.create(new InetSocketAddress(InetAddress.getLoopbackAddress(), 0), 0);
        collector.createContext("/api/v1/lineage", this::take);
        collector.start();
        server = TestServer.start(Map.of(
                "remitto.lineage.url",
                "http://127.0.0.1:" + collector.getAddress().getPort() + "/api/v1/lineage",
                "remitto.lineage.key",
                "key-of-the-collector",
                "remitto.lineage.namespace",
                "quay"));
        editor = server.user("EDITOR");
        route = new TestRoute(server, editor);
    }

    @AfterAll
    void stop() {
        server.close();
        collector.stop(0);
    }

    private void take(HttpExchange exchange) throws IOException {
        String body = new String(exchange.getRequestBody().readAllBytes(), StandardCharsets.UTF_8);
        keys.add(exchange.getRequestHeaders().getFirst("Authorization"));
        if (answers == 200) {
            events.add(body);
        }
        exchange.sendResponseHeaders(answers, -1);
        exchange.close();
    }

    private static RouteSpec spec() {
        RouteSpec spec = TestRoute.spec(Optional.empty());
        return spec.rules(List.of(
                FieldRule.of("id", new Receives.FromColumn("id")),
                FieldRule.of("town", new Receives.Computed("town + ' ' + string(id)"))
                        .consent(new FieldConsent("mail", "email")),
                FieldRule.of("email", new Receives.FromColumn("email"), new LowerCase(), new Sha256())));
    }

    private List<JsonNode> of(String job) {
        return events.stream()
                .map(JSON::readTree)
                .filter(event -> event.at("/job/name").asString().equals(job))
                .toList();
    }

    private JsonNode told(String job, String type) {
        return Awaited.value(
                        type + " of " + job + " is told",
                        () -> of(job).stream()
                                .filter(event ->
                                        event.get("eventType").asString().equals(type))
                                .toList(),
                        found -> !found.isEmpty())
                .get(0);
    }

    @Test
    void aRunIsToldAsItBeginsAndAsItEndsWithWhatItsFieldsAreMadeOf() {
        long id = route.add(editor, "Told", spec());
        JsonNode run = route.run(id);
        assertThat(run.get("state").asString()).isEqualTo("SENT");

        JsonNode complete = told("route.Told", "COMPLETE");
        JsonNode start = told("route.Told", "START");

        assertThat(start.at("/run/runId")).isEqualTo(complete.at("/run/runId"));
        assertThat(start.at("/job/namespace").asString()).isEqualTo("quay");
        assertThat(complete.at("/job/facets/jobType/jobType").asString()).isEqualTo("ROUTE");
        assertThat(complete.at("/job/facets/sql/query").asString())
                .isEqualTo("select id, town, email from shop.customers");
        assertThat(complete.at("/inputs/0/namespace").asString())
                .isEqualTo("postgres://127.0.0.1:" + server.cluster().port());
        assertThat(complete.at("/inputs/0/name").asString())
                .isEqualTo(server.warehouse().database() + ".remitto.customers");
        assertThat(complete.at("/inputs/0/facets/schema/fields").size()).isEqualTo(3);
        assertThat(complete.at("/inputs/0/inputFacets/inputStatistics/rowCount").asLong())
                .isEqualTo(40);
        assertThat(complete.at("/outputs/0/name").asString())
                .isEqualTo(server.warehouse().database() + ".mail.recipients");
        assertThat(complete.at("/outputs/0/namespace").asString())
                .as("a table that is written has the name of one that is read")
                .isEqualTo(complete.at("/inputs/0/namespace").asString());
        assertThat(complete.at("/outputs/0/outputFacets/outputStatistics/rowCount")
                        .asLong())
                .isEqualTo(40);
        JsonNode made = complete.at("/outputs/0/facets/columnLineage/fields");
        assertThat(from(made.get("id"))).containsExactly("id DIRECT IDENTITY open");
        assertThat(from(made.get("town")))
                .containsExactly(
                        "email INDIRECT CONDITION open",
                        "id DIRECT TRANSFORMATION open",
                        "town DIRECT TRANSFORMATION open");
        assertThat(from(made.get("email"))).containsExactly("email DIRECT TRANSFORMATION masked");
        assertThat(keys).containsOnly("Bearer key-of-the-collector");
        assertThat(String.join("", events)).as("no value of anybody").doesNotContain("@mail.example");
    }

    private static List<String> from(JsonNode field) {
        return field.get("inputFields")
                .valueStream()
                .map(one -> one.get("field").asString() + " "
                        + one.at("/transformations/0/type").asString() + " "
                        + one.at("/transformations/0/subtype").asString() + " "
                        + (one.at("/transformations/0/masking").asBoolean() ? "masked" : "open"))
                .sorted()
                .toList();
    }

    @Test
    void everyEventIsReadByTheStandardsOwnModelAndSaysWhatItMust() {
        long id = route.add(editor, "Read", spec());
        route.run(id);
        told("route.Read", "COMPLETE");

        assertThat(events).allSatisfy(text -> {
            OpenLineage.RunEvent event = OpenLineageClientUtils.runEventFromJson(text);
            assertThat(event.getEventTime()).isNotNull();
            assertThat(event.getProducer()).isEqualTo(LineageWords.PRODUCER);
            assertThat(event.getSchemaURL().toString()).startsWith("https://openlineage.io/spec/");
            assertThat(event.getRun().getRunId()).isNotNull();
            assertThat(event.getJob().getName()).isNotBlank();
            assertThat(OpenLineageClientUtils.toJson(event))
                    .as("nothing that the model does not know")
                    .isEqualTo(text);
        });
    }

    @Test
    void aRunThatFailsAndOneThatIsDiscardedAreToldSo() {
        long id = route.add(editor, "Discarded", spec());
        JsonNode prepared = route.prepare(id);
        editor.post("/api/runs/" + prepared.get("id").asLong() + "/discard", Map.of())
                .ok();

        assertThat(told("route.Discarded", "ABORT")
                        .at("/outputs/0/outputFacets/outputStatistics")
                        .isMissingNode())
                .as("nothing was written")
                .isTrue();

        long broken = route.add(editor, "Broken", spec());
        server.warehouse().run("alter table shop.customers rename column town to city");
        try {
            route.prepare(broken);
            JsonNode failed = told("route.Broken", "FAIL");
            assertThat(failed.at("/run/facets/errorMessage/message").asString()).isNotBlank();
        } finally {
            server.warehouse().run("alter table shop.customers rename column city to town");
        }
    }

    @Test
    void aCollectorThatIsDownHoldsNoRunUpAndLosesNothing() {
        answers = 503;
        long id = route.add(editor, "Late", spec());
        JsonNode run = route.run(id);
        assertThat(run.get("state").asString()).isEqualTo("SENT");
        Awaited.until("it was tried", () -> !keys.isEmpty());
        assertThat(of("route.Late")).isEmpty();

        answers = 200;
        server.clock().forward(java.time.Duration.ofMinutes(11));

        assertThat(told("route.Late", "COMPLETE").at("/run/runId").asString()).isNotBlank();
        assertThat(of("route.Late").stream().map(event -> event.get("eventType").asString()))
                .startsWith("START")
                .contains("COMPLETE");
    }

    @Test
    void aMatchingIsTold() {
        editor.put(
                        "/api/people/sources/" + route.dataset(),
                        Map.of(
                                "entityType",
                                "PERSON",
                                "columns",
                                List.of(Map.of(
                                        "column", "email", "attribute", "email", "kind", "EMAIL", "beside", Map.of())),
                                "country",
                                "NO",
                                "countryColumn",
                                ""))
                .ok();
        editor.post("/api/people/runs", Map.of()).ok();

        JsonNode complete = told("matching.person", "COMPLETE");

        assertThat(complete.at("/outputs/0/name").asString()).isEqualTo("people.person");
        assertThat(from(complete.at("/outputs/0/facets/columnLineage/fields/email")))
                .containsExactly("email DIRECT TRANSFORMATION open");
    }
}
