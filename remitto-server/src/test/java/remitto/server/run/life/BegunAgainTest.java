package remitto.server.run.life;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import remitto.server.harness.Awaited;
import remitto.server.harness.TestRoute;
import remitto.server.harness.TestServer;
import remitto.server.harness.TestUser;
import tools.jackson.databind.JsonNode;

/** What was being prepared when its server stopped is prepared again by another, as what it was. */
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class BegunAgainTest {
    private TestServer server;
    private TestUser editor;
    private TestRoute shop;
    private long route;

    @BeforeAll
    void start() {
        server = TestServer.start();
        editor = server.user("EDITOR");
        shop = new TestRoute(server, editor);
        route = shop.add(editor, "Recipients", TestRoute.spec(Optional.empty()));
        assertThat(shop.run(route).get("state").asString()).isEqualTo("SENT");
    }

    @AfterAll
    void stop() {
        server.close();
    }

    /** As if it were being prepared by a server that is heard of no more. */
    private void orphan(long run, String trigger) {
        server.cluster()
                .run(
                        server.database(),
                        "update run set state = 'PREPARING', trigger = '" + trigger
                                + "', owner = 'a server that is gone', beat_at = now() - interval '1 hour' where id = "
                                + run);
    }

    private JsonNode newest() {
        return editor.get("/api/runs?routeId=" + route).ok().get("runs").get(0);
    }

    private void awaitInterrupted(long run) {
        Awaited.until(
                "run " + run + " is interrupted",
                () -> shop.await(run).get("state").asString().equals("INTERRUPTED"));
    }

    private JsonNode awaitAfter(long run) {
        Awaited.until("another run follows run " + run, () -> newest().get("id").asLong() != run);
        return shop.await(newest().get("id").asLong());
    }

    private void change(String town) {
        server.warehouse().run("update shop.customers set town = '" + town + "' where id <= 5");
    }

    private void discard(JsonNode run) {
        editor.post("/api/runs/" + run.get("id").asLong() + "/discard", Map.of())
                .ok();
    }

    @Test
    void aManifestIs() {
        change("Holm");
        long first = shop.prepare(route).get("id").asLong();
        orphan(first, "HAND");
        awaitInterrupted(first);
        JsonNode again = awaitAfter(first);
        assertThat(again.get("trigger").asString()).isEqualTo("HAND");
        assertThat(again.get("state").asString()).isEqualTo("READY");
        assertThat(again.get("counts").get("changed").asLong()).isEqualTo(5);
        discard(again);
    }

    @Test
    void anUndoIsAndTakesTheSameManifestBack() {
        change("Vik");
        JsonNode sent = shop.run(route);
        long undone = sent.get("id").asLong();
        JsonNode undo = shop.await(editor.post("/api/runs/" + undone + "/undo", Map.of())
                .ok()
                .get("runId")
                .asLong());
        orphan(undo.get("id").asLong(), "UNDO");
        awaitInterrupted(undo.get("id").asLong());
        JsonNode again = awaitAfter(undo.get("id").asLong());
        assertThat(again.get("trigger").asString()).isEqualTo("UNDO");
        assertThat(again.get("undoOf").asLong()).isEqualTo(undone);
        assertThat(again.get("state").asString()).isEqualTo("READY");
        assertThat(again.get("counts")).isEqualTo(undo.get("counts"));

        JsonNode byHand = shop.await(editor.post("/api/runs/" + again.get("id").asLong() + "/prepare-again", Map.of())
                .ok()
                .get("runId")
                .asLong());
        assertThat(byHand.get("trigger").asString())
                .as("prepared again, it stays an undo")
                .isEqualTo("UNDO");
        assertThat(byHand.get("undoOf").asLong()).isEqualTo(undone);
        assertThat(byHand.get("counts")).isEqualTo(undo.get("counts"));
        discard(byHand);
    }

    /** Which records were meant is known no more; they are held as they were, and somebody asks again. */
    @Test
    void heldRecordsThatSomebodyTriedAgainAreNot() {
        change("Stor");
        long retry = shop.prepare(route).get("id").asLong();
        orphan(retry, "RETRY");
        awaitInterrupted(retry);
        JsonNode next = shop.prepare(route);
        assertThat(next.get("id").asLong()).as("no other came in between").isEqualTo(retry + 1);
        discard(next);
    }
}
