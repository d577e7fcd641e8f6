package remitto.server.run.life;

import static org.assertj.core.api.Assertions.assertThat;

import java.math.BigDecimal;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import remitto.server.harness.TestRoute;
import remitto.server.harness.TestServer;
import remitto.server.harness.TestUser;
import tools.jackson.databind.JsonNode;

/** Whatever a guard stops is looked at by somebody who had no part in it, and a destination by an administrator first. */
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class FourEyesTest {
    private static final Optional<BigDecimal> TIGHT = Optional.of(BigDecimal.valueOf(5));

    private TestServer server;
    private TestUser editor;
    private TestUser approver;
    private TestUser second;
    private TestRoute shop;
    private long route;

    @BeforeAll
    void aRouteWithAManifestThatAGuardStops() {
        server = TestServer.start();
        editor = server.user("EDITOR");
        approver = server.user("APPROVER", "first approver");
        second = server.user("APPROVER", "second approver");
        shop = new TestRoute(server, editor);
        route = shop.add(editor, "Recipients", TestRoute.spec(TIGHT));
        assertThat(shop.run(route).get("state").asString()).isEqualTo("SENT");
        server.warehouse().run("delete from shop.customers where id <= 10");
    }

    @AfterAll
    void stop() {
        server.close();
    }

    private long stopped() {
        server.clock().forward(java.time.Duration.ofMinutes(1));
        JsonNode run = shop.prepare(route);
        assertThat(run.get("state").asString()).isEqualTo("AWAITING_APPROVAL");
        return run.get("id").asLong();
    }

    private void discard(long run) {
        editor.post("/api/runs/" + run + "/discard", Map.of()).ok();
    }

    private static TestUser.Answer approve(TestUser who, long run) {
        return who.post("/api/runs/" + run + "/approve", Map.of("verdicts", List.of(), "without", List.of()));
    }

    @Test
    void anEditorCannotRaiseTheLimitThatStoppedHim() {
        long run = stopped();
        assertThat(editor.post("/api/runs/" + run + "/send", Map.of()).status()).isEqualTo(409);
        int looser = shop.save(editor, route, TestRoute.spec(Optional.of(BigDecimal.valueOf(90))));
        int none = shop.save(editor, route, TestRoute.spec(Optional.empty()));
        for (int version : List.of(looser, none)) {
            TestUser.Answer answer = editor.post("/api/routes/" + route + "/in-service", Map.of("version", version));
            assertThat(answer.status()).isEqualTo(403);
            assertThat(answer.detail())
                    .contains("loosens the guards of removed records")
                    .contains("An approver");
        }
        discard(run);
    }

    @Test
    void whoeverLoosenedAGuardCannotApproveWhatItStopped() {
        int mine = shop.save(approver, route, TestRoute.spec(Optional.of(BigDecimal.valueOf(8))));
        TestUser.Answer alone = approver.post("/api/routes/" + route + "/in-service", Map.of("version", mine));
        assertThat(alone.status()).isEqualTo(409);
        assertThat(alone.detail()).contains("You saved it");
        second.post("/api/routes/" + route + "/in-service", Map.of("version", mine))
                .ok();
        assertThat(server.journal("loosened guards").get(0).get("detail").asString())
                .isEqualTo("removed records");
        long run = stopped();
        assertThat(approve(approver, run).detail())
                .isEqualTo("You changed the route since this was last approved, so somebody else approves it.");
        assertThat(approve(second, run).detail())
                .isEqualTo("You loosened its guards since this was last approved, so somebody else approves it.");
        discard(run);
    }

    @Test
    void whoeverChangedTheSqlOfTheDatasetCannotApprove() {
        TestUser sneaky = server.user("APPROVER", "sneaky approver");
        sneaky.post(
                        "/api/datasets/" + shop.dataset() + "/versions",
                        Map.of(
                                "name",
                                "Customers",
                                "description",
                                "",
                                "sourceId",
                                shop.source(),
                                "basedOn",
                                sneaky.get("/api/datasets/" + shop.dataset())
                                        .ok()
                                        .get("latestVersion")
                                        .asInt(),
                                "definition",
                                TestRoute.definition("select id, town, email from shop.customers where id > 10")))
                .ok();
        int latest = sneaky.get("/api/datasets/" + shop.dataset())
                .ok()
                .get("latestVersion")
                .asInt();
        sneaky.post("/api/datasets/" + shop.dataset() + "/in-service", Map.of("version", latest))
                .ok();
        long run = stopped();
        assertThat(approve(sneaky, run).status()).isEqualTo(409);
        assertThat(approve(sneaky, run).detail()).contains("changed a dataset of it");
        discard(run);
    }

    /** The principal is the account: a second user of the same display name, or a new name, changes nothing. */
    @Test
    void aNewNameMakesNobodyAnotherPerson() {
        TestUser chameleon = server.user("APPROVER", "chameleon");
        long id = server.idOf("chameleon");
        shop.save(chameleon, route, TestRoute.spec(TIGHT));
        long run = stopped();
        server.admin()
                .put(
                        "/api/users/" + id,
                        Map.of(
                                "email",
                                "chameleon@quay.example",
                                "name",
                                "Somebody Else",
                                "role",
                                "APPROVER",
                                "rights",
                                Map.of()))
                .ok();
        assertThat(approve(chameleon, run).status()).isEqualTo(409);
        assertThat(editor.get("/api/routes/" + route).ok().get("author").asString())
                .isEqualTo("Somebody Else");
        assertThat(server.admin()
                        .post(
                                "/api/users",
                                Map.of(
                                        "email",
                                        "other@quay.example",
                                        "name",
                                        "SOMEBODY  else",
                                        "role",
                                        "APPROVER",
                                        "password",
                                        TestServer.PASSWORD))
                        .status())
                .isEqualTo(409);
        discard(run);
    }

    @Test
    void somebodyWhoHadNoPartApprovesAndFromThenOnItCountsAsLookedAt() {
        TestUser fresh = server.user("APPROVER", "fresh approver");
        TestUser author = server.user("APPROVER", "author approver");
        int version = shop.save(author, route, TestRoute.spec(TIGHT));
        author.post("/api/routes/" + route + "/in-service", Map.of("version", version))
                .ok();
        long run = stopped();
        assertThat(approve(author, run).status()).isEqualTo(409);
        approve(fresh, run).ok();
        assertThat(shop.await(run).get("state").asString()).isEqualTo("SENT");
        server.warehouse().run("delete from shop.customers where id <= 20");
        long next = stopped();
        approve(author, next).ok();
        assertThat(shop.await(next).get("state").asString()).isEqualTo("SENT");
        server.warehouse().run("delete from shop.customers where id <= 30");
    }

    @Test
    void noDataGoesToAnOriginThatNoAdministratorLetIn() {
        long fresh = shop.connect(editor);
        long other = editor.post(
                        "/api/routes",
                        Map.of(
                                "name",
                                "Elsewhere",
                                "ends",
                                Map.of("datasetId", shop.dataset(), "destinationId", fresh, "object", "recipients"),
                                "spec",
                                TestRoute.spec(TIGHT)))
                .ok()
                .get("id")
                .asLong();
        editor.post("/api/routes/" + other + "/in-service", Map.of("version", 1))
                .ok();
        TestUser.Answer refused = editor.post("/api/routes/" + other + "/runs", Map.of());
        assertThat(refused.status()).isEqualTo(409);
        assertThat(refused.detail()).contains("No data goes to postgresql://127.0.0.1:");
        JsonNode origins = editor.get("/api/destinations/" + fresh + "/origins").ok();
        assertThat(origins.get("waiting")).hasSize(1);
        Map<String, Object> ask = Map.of("origins", origins.get("origins"));
        String letIn = "/api/destinations/" + fresh + "/let-in";
        assertThat(editor.post(letIn, ask).status()).isEqualTo(403);
        assertThat(approver.post(letIn, ask).status()).isEqualTo(403);
        server.admin().post(letIn, ask).ok();
        shop.prepare(other);

        editor.put(
                        "/api/destinations/" + fresh,
                        Map.of(
                                "name",
                                "Moved",
                                "profile",
                                "database-table",
                                "limitsOff",
                                true,
                                "settings",
                                shop.settings("localhost")))
                .ok();
        assertThat(editor.get("/api/destinations/" + fresh + "/origins")
                        .ok()
                        .get("waiting")
                        .get(0)
                        .asString())
                .startsWith("postgresql://localhost:");
        assertThat(server.journal("changed destination").get(0).get("detail").asString())
                .contains("from postgresql://127.0.0.1:")
                .contains("to postgresql://localhost:");
        TestUser.Answer moved = editor.post("/api/routes/" + other + "/try", Map.of("key", "15"));
        assertThat(moved.detail()).contains("No data goes to postgresql://localhost:");
    }

    @Test
    void guardsOfMatchingAreLoosenedByApproversOnly() {
        JsonNode plan = editor.get("/api/people/plan").ok();
        Map<String, Object> looser =
                Map.of("guards", Map.of("joined", 1, "split", 1, "gone", 1), "schedule", plan.get("schedule"));
        assertThat(editor.put("/api/people/plan", looser).status()).isEqualTo(403);
        Map<String, Object> tighter =
                Map.of("guards", Map.of("joined", 0.01, "split", 0.01, "gone", 0.01), "schedule", plan.get("schedule"));
        editor.put("/api/people/plan", tighter).ok();
        approver.put("/api/people/plan", looser).ok();
        assertThat(server.journal("changed the guards of matching")).hasSize(2);
    }
}
