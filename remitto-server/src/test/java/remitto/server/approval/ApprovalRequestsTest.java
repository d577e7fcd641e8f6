package remitto.server.approval;

import static org.assertj.core.api.Assertions.assertThat;

import java.math.BigDecimal;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import remitto.core.route.RouteSpec;
import remitto.server.harness.TestRoute;
import remitto.server.harness.TestServer;
import remitto.server.harness.TestUser;
import tools.jackson.databind.JsonNode;

/** Whoever may not approve asks somebody who may, and the request is gone once the matter is. */
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class ApprovalRequestsTest {
    private static final String PATH = "/api/approval-requests";

    private TestServer server;
    private TestUser editor;
    private TestUser approver;
    private TestRoute shop;

    @BeforeAll
    void start() {
        server = TestServer.start();
        editor = server.user("EDITOR", "asker");
        approver = server.user("APPROVER", "decider");
        shop = new TestRoute(server, editor);
    }

    @AfterAll
    void stop() {
        server.close();
    }

    private static Map<String, Object> about(String kind, long subject, int version, String note) {
        return Map.of("kind", kind, "subjectId", subject, "version", version, "note", note);
    }

    private List<JsonNode> open(long subject) {
        return approver.get(PATH)
                .ok()
                .valueStream()
                .filter(one -> one.get("subjectId").asLong() == subject)
                .toList();
    }

    @Test
    void aManifestThatAGuardStoppedIsAskedAboutUntilItIsDecided() {
        long route = shop.add(editor, "Guarded", TestRoute.spec(Optional.of(BigDecimal.ONE)));
        shop.run(route);
        server.warehouse().run("delete from shop.customers where id <= 50");
        long run = shop.prepare(route).get("id").asLong();
        assertThat(editor.post("/api/runs/" + run + "/approve", Map.of("verdicts", List.of(), "without", List.of()))
                        .status())
                .isEqualTo(403);

        editor.post(PATH, about("MANIFEST", run, 0, " They moved away ")).ok();
        assertThat(open(run)).singleElement().satisfies(one -> {
            assertThat(one.get("note").asString()).isEqualTo("They moved away");
            assertThat(one.get("subject").asString()).isEqualTo("manifest " + run + " of Guarded");
            assertThat(one.get("askedBy").asString()).isNotBlank();
        });
        editor.post(PATH, about("MANIFEST", run, 0, "Really")).ok();
        assertThat(open(run))
                .singleElement()
                .satisfies(one -> assertThat(one.get("note").asString()).isEqualTo("Really"));
        assertThat(approver.get("/api/departures").ok().get("approvals").valueStream())
                .anySatisfy(one -> assertThat(one.get("subjectId").asLong()).isEqualTo(run));

        approver.post("/api/runs/" + run + "/discard", Map.of()).ok();
        assertThat(open(run)).as("decided, so nobody asks any longer").isEmpty();
        assertThat(editor.post(PATH, about("MANIFEST", run, 0, "")).status()).isEqualTo(409);
        assertThat(editor.get("/api/journal?about=run&id=" + run).text()).contains("asked for approval");
    }

    @Test
    void aVersionThatLoosensAGuardIsAskedAboutUntilItIsInServiceOrALaterOneIsSaved() {
        RouteSpec tight = TestRoute.spec(Optional.of(BigDecimal.ONE));
        long route = shop.add(editor, "Tight", tight);
        RouteSpec loose = TestRoute.spec(Optional.of(BigDecimal.TEN));
        save(route, 1, loose);
        TestUser.Answer refused = editor.post("/api/routes/" + route + "/in-service", Map.of("version", 2));
        assertThat(refused.status()).isEqualTo(403);
        assertThat(refused.json().get("details").get(0).get("where").asString()).isEqualTo("approver");

        editor.post(PATH, about("ROUTE_VERSION", route, 2, "The town closes")).ok();
        assertThat(open(route))
                .singleElement()
                .satisfies(one -> assertThat(one.get("subject").asString()).isEqualTo("version 2 of Tight"));
        save(route, 2, TestRoute.spec(Optional.of(BigDecimal.valueOf(5))));
        assertThat(open(route)).as("nobody puts it in service any longer").isEmpty();
        editor.post(PATH, about("ROUTE_VERSION", route, 3, "")).ok();
        approver.post("/api/routes/" + route + "/in-service", Map.of("version", 3))
                .ok();
        assertThat(open(route)).isEmpty();
        assertThat(editor.post(PATH, about("ROUTE_VERSION", route, 3, "")).status())
                .isEqualTo(409);
    }

    private void save(long route, int basedOn, RouteSpec spec) {
        JsonNode saved = editor.get("/api/routes/" + route).ok();
        editor.post(
                        "/api/routes/" + route + "/versions",
                        Map.of(
                                "name",
                                saved.get("name").asString(),
                                "basedOn",
                                basedOn,
                                "spec",
                                spec,
                                "note",
                                "",
                                "ends",
                                Map.of(
                                        "datasetId",
                                        saved.get("datasetId").asLong(),
                                        "destinationId",
                                        saved.get("destinationId").asLong(),
                                        "object",
                                        saved.get("object").asString())))
                .ok();
    }

    @Test
    void nobodyAsksAboutWhatIsNotThereOrAtLengthAndViewersDoNotAsk() {
        assertThat(editor.post(PATH, about("MANIFEST", 999_999, 0, "")).status())
                .isEqualTo(404);
        assertThat(editor.post(PATH, about("ROUTE_VERSION", 999_999, 1, "")).status())
                .isEqualTo(404);
        assertThat(editor.post(PATH, about("MANIFEST", 1, 0, "x".repeat(501))).status())
                .isEqualTo(422);
        assertThat(server.user("VIEWER").post(PATH, about("MANIFEST", 1, 0, "")).status())
                .isEqualTo(403);
    }
}
