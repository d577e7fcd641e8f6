package remitto.server.draft;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import org.springframework.jdbc.core.simple.JdbcClient;
import remitto.server.harness.TestServer;
import remitto.server.harness.TestUser;
import tools.jackson.databind.JsonNode;

/** Work is never lost on the way: an edit is kept for whoever made it, and for nobody else. */
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class DraftTest {
    private TestServer server;

    @BeforeAll
    void start() {
        server = TestServer.start();
    }

    @AfterAll
    void stop() {
        server.close();
    }

    @Test
    void anEditIsFoundAgainAsItWasLeft() {
        TestUser one = server.user("EDITOR", "keeper");
        assertThat(draft(one, "DATASET/new").isMissingNode()).isTrue();
        one.put("/api/drafts/DATASET/new", Map.of("title", "Ports", "basedOn", 0, "content", Map.of("sql", "select 1")))
                .ok();
        one.put(
                        "/api/drafts/DATASET/new",
                        Map.of(
                                "title",
                                "Ports",
                                "basedOn",
                                3,
                                "content",
                                Map.of("sql", "select 2 as \"ö\"\n", "columns", List.of(1, 2))))
                .ok();
        JsonNode kept = draft(one, "DATASET/new");
        assertThat(kept.get("basedOn").asInt()).isEqualTo(3);
        assertThat(kept.get("content").get("sql").asString()).isEqualTo("select 2 as \"ö\"\n");
        assertThat(kept.get("content").get("columns")).hasSize(2);
        JsonNode entries = one.get("/api/drafts").ok();
        assertThat(entries).hasSize(1);
        assertThat(entries.get(0).get("title").asString()).isEqualTo("Ports");
        assertThat(entries.get(0).has("content")).isFalse();
        one.delete("/api/drafts/DATASET/new").ok();
        assertThat(draft(one, "DATASET/new").isMissingNode()).isTrue();
        assertThat(one.get("/api/drafts").ok()).isEmpty();
    }

    /** Editors compare an edit with what is saved as text, so that the names come back in their order. */
    @Test
    void namesComeBackInTheirOrder() {
        TestUser one = server.user("EDITOR", "orderly");
        one.send(
                        "PUT",
                        "/api/drafts/ROUTE/7",
                        "{\"title\":\"\",\"basedOn\":1,\"content\":{\"zulu\":1,\"alpha\":{\"y\":1,\"b\":2},\"mike\":[{\"q\":0,\"a\":0}]}}")
                .ok();
        assertThat(draft(one, "ROUTE/7").get("content").toString())
                .isEqualTo("{\"zulu\":1,\"alpha\":{\"y\":1,\"b\":2},\"mike\":[{\"q\":0,\"a\":0}]}");
    }

    @Test
    void nobodyElseSeesOrChangesIt() {
        TestUser one = server.user("EDITOR", "mine");
        TestUser other = server.user("ADMIN", "other");
        one.put("/api/drafts/ROUTE/1", Map.of("title", "Ports", "basedOn", 1, "content", Map.of("mode", "ADD")))
                .ok();
        assertThat(draft(other, "ROUTE/1").isMissingNode()).isTrue();
        assertThat(other.get("/api/drafts").ok()).isEmpty();
        other.put("/api/drafts/ROUTE/1", Map.of("title", "Ports", "basedOn", 1, "content", Map.of("mode", "REMOVE")))
                .ok();
        other.delete("/api/drafts/ROUTE/1").ok();
        assertThat(draft(one, "ROUTE/1").get("content").get("mode").asString()).isEqualTo("ADD");
        assertThat(server.stranger().get("/api/drafts").status()).isEqualTo(401);
    }

    @Test
    void whoeverMayOnlyLookKeepsNothing() {
        TestUser viewer = server.user("VIEWER", "onlooker");
        assertThat(viewer.put("/api/drafts/ROUTE/1", Map.of("title", "Ports", "basedOn", 1, "content", Map.of()))
                        .status())
                .isEqualTo(403);
        assertThat(draft(viewer, "ROUTE/1").isMissingNode()).isTrue();
    }

    @Test
    void whatIsNoDraftIsRefused() {
        TestUser one = server.user("EDITOR", "wrong-draft");
        assertThat(one.put("/api/drafts/BOAT/1", Map.of("title", "Ports", "basedOn", 1, "content", Map.of()))
                        .status())
                .isBetween(400, 422);
        assertThat(one.put("/api/drafts/ROUTE/1", Map.of("title", "Ports", "basedOn", -1, "content", Map.of()))
                        .status())
                .isEqualTo(422);
        assertThat(one.put(
                                "/api/drafts/ROUTE/" + "x".repeat(201),
                                Map.of("title", "Ports", "basedOn", 1, "content", Map.of()))
                        .status())
                .isEqualTo(422);
        assertThat(one.put("/api/drafts/ROUTE/1", Map.of("title", "Ports", "basedOn", 1))
                        .status())
                .isBetween(400, 422);
        assertThat(one.get("/api/drafts").ok()).isEmpty();
    }

    @Test
    void theOldestGiveWay() {
        TestUser one = server.user("EDITOR", "busy");
        for (int i = 0; i < Drafts.MOST_PER_ACCOUNT + 3; i++) {
            server.clock().forward(Duration.ofSeconds(1));
            one.put("/api/drafts/CROSSWALK/" + i, Map.of("title", "Ports", "basedOn", 1, "content", Map.of()))
                    .ok();
        }
        assertThat(one.get("/api/drafts").ok()).hasSize(Drafts.MOST_PER_ACCOUNT);
        assertThat(draft(one, "CROSSWALK/2").isMissingNode()).isTrue();
        assertThat(draft(one, "CROSSWALK/3").isMissingNode()).isFalse();
    }

    @Test
    void aDraftOfLongAgoIsForgotten() {
        TestUser one = server.user("EDITOR", "late");
        one.put("/api/drafts/PROFILE/purser", Map.of("title", "Ports", "basedOn", 1, "content", Map.of("text", "a: 1")))
                .ok();
        server.bean(JdbcClient.class)
                .sql("update draft set saved_at = saved_at - make_interval(days => ?) where subject = 'purser'")
                .param((int) Drafts.KEPT_FOR.plus(Duration.ofDays(1)).toDays())
                .update();
        assertThat(draft(one, "PROFILE/purser").isMissingNode()).isTrue();
        one.put("/api/drafts/PROFILE/other", Map.of("title", "Ports", "basedOn", 1, "content", Map.of()))
                .ok();
        assertThat(server.bean(JdbcClient.class)
                        .sql("select count(*) from draft where subject = 'purser'")
                        .query(Integer.class)
                        .single())
                .isZero();
    }

    private static JsonNode draft(TestUser who, String of) {
        return who.get("/api/drafts/" + of).ok().path("draft");
    }
}
