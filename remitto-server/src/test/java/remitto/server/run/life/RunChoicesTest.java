package remitto.server.run.life;

import static org.assertj.core.api.Assertions.assertThat;

import java.math.BigDecimal;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import remitto.server.harness.TestRoute;
import remitto.server.harness.TestServer;
import remitto.server.harness.TestUser;
import tools.jackson.databind.JsonNode;

/** The API says what may be done with a run now and by whom, and refuses the rest with the same words. */
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class RunChoicesTest {
    private TestServer server;
    private TestUser viewer;
    private TestUser editor;
    private TestUser approver;
    private TestRoute shop;
    private long route;

    @BeforeAll
    void start() {
        server = TestServer.start();
        viewer = server.user("VIEWER");
        editor = server.user("EDITOR");
        approver = server.user("APPROVER");
        shop = new TestRoute(server, editor);
        route = shop.add(editor, "Recipients", TestRoute.spec(Optional.of(BigDecimal.valueOf(5))));
    }

    @AfterAll
    void stop() {
        server.close();
    }

    /** By action, why not; blank when it may be done. */
    private static Map<String, String> choices(TestUser who, long run) {
        Map<String, String> choices = new TreeMap<>();
        for (JsonNode one : who.get("/api/runs/" + run + "/choices").ok()) {
            assertThat(one.get("allowed").asBoolean())
                    .isEqualTo(one.get("why").asString().isEmpty());
            choices.put(one.get("action").asString(), one.get("why").asString());
        }
        return choices;
    }

    @Test
    void aManifestThatWaitsIsSentOrDiscardedAndUndoneOnceItWasSent() {
        server.warehouse().run("update shop.customers set town = 'Holm' where id < 10");
        long prepared = shop.prepare(route).get("id").asLong();
        assertThat(choices(editor, prepared)).isEqualTo(Map.of("SEND", "", "DISCARD", "", "PREPARE_AGAIN", ""));
        assertThat(choices(viewer, prepared))
                .isEqualTo(Map.of(
                        "SEND", "An editor decides about it.",
                        "DISCARD", "An editor decides about it.",
                        "PREPARE_AGAIN", "An editor decides about it."));
        assertThat(viewer.post("/api/runs/" + prepared + "/send", Map.of()).status())
                .isEqualTo(403);

        long again = editor.post("/api/runs/" + prepared + "/prepare-again", Map.of())
                .ok()
                .get("runId")
                .asLong();
        shop.await(again);
        assertThat(choices(editor, prepared)).isEqualTo(Map.of("PREPARE_NEW", ""));
        TestUser.Answer late = editor.post("/api/runs/" + prepared + "/send", Map.of());
        assertThat(late.status()).isEqualTo(409);
        assertThat(late.detail()).isEqualTo("This manifest is not waiting to be sent; it is discarded.");

        editor.post("/api/runs/" + again + "/send", Map.of()).ok();
        assertThat(shop.await(again).get("state").asString()).isEqualTo("SENT");
        assertThat(choices(editor, again)).isEqualTo(Map.of("UNDO", "", "PREPARE_NEW", ""));

        server.warehouse().run("update shop.customers set town = 'Vik' where id = 1");
        long next = shop.prepare(route).get("id").asLong();
        String waits = "Manifest " + next + " of this route is waiting. Send or discard it first.";
        assertThat(choices(editor, again)).containsEntry("UNDO", waits);
        assertThat(editor.post("/api/runs/" + again + "/undo", Map.of()).detail())
                .isEqualTo(waits);
        editor.post("/api/runs/" + next + "/discard", Map.of()).ok();
    }

    @Test
    void whatAGuardStoppedIsForApproversWhoHadNoPartInIt() {
        assertThat(shop.run(route).get("state").asString()).isEqualTo("SENT");
        server.warehouse().run("delete from shop.customers where id between 20 and 35");
        JsonNode stopped = shop.prepare(route);
        assertThat(stopped.get("state").asString()).isEqualTo("AWAITING_APPROVAL");
        long run = stopped.get("id").asLong();
        String guard = "A guard stopped this. An approver decides about it.";
        assertThat(choices(editor, run)).isEqualTo(Map.of("APPROVE", guard, "DISCARD", "", "PREPARE_AGAIN", ""));
        assertThat(editor.post("/api/runs/" + run + "/send", Map.of()).detail()).isEqualTo(guard);
        assertThat(choices(approver, run)).containsEntry("APPROVE", "");
        approver.post("/api/runs/" + run + "/approve", Map.of("verdicts", List.of(), "without", List.of()))
                .ok();
        assertThat(shop.await(run).get("state").asString()).isEqualTo("SENT");
        assertThat(editor.post("/api/runs/" + run + "/cancel", Map.of()).detail())
                .isEqualTo("This run is not under way.");
    }
}
