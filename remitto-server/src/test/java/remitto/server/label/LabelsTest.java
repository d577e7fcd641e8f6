package remitto.server.label;

import static org.assertj.core.api.Assertions.assertThat;

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

/** Long lists are worked with by owner and tag, several things at once. */
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class LabelsTest {
    private TestServer server;
    private TestUser editor;
    private long one;
    private long other;

    @BeforeAll
    void start() {
        server = TestServer.start();
        editor = server.user("EDITOR", "tidier");
        TestRoute route = new TestRoute(server, editor);
        one = route.add(editor, "One", TestRoute.spec(Optional.empty()));
        other = route.add(editor, "Other", TestRoute.spec(Optional.empty()));
    }

    @AfterAll
    void stop() {
        server.close();
    }

    private static Map<String, Object> change(List<Long> ids, List<String> add, List<String> remove) {
        return Map.of("ids", ids, "withoutOwner", false, "add", add, "remove", remove);
    }

    private JsonNode of(long id) {
        return editor.get("/api/labels/ROUTE")
                .ok()
                .valueStream()
                .filter(label -> label.get("id").asLong() == id)
                .findFirst()
                .orElseThrow();
    }

    @Test
    void tagsAndOwnersOfSeveralAreChangedAtOnce() {
        editor.put("/api/labels/ROUTE", change(List.of(one, other), List.of("weekly", " mail "), List.of()))
                .ok();
        assertThat(of(one).get("tags").valueStream().map(JsonNode::asString)).containsExactly("mail", "weekly");
        editor.put("/api/labels/ROUTE", change(List.of(other), List.of("mail"), List.of("weekly")))
                .ok();
        assertThat(of(other).get("tags").valueStream().map(JsonNode::asString)).containsExactly("mail");
        assertThat(of(one).get("tags")).hasSize(2);

        JsonNode colleague = editor.get("/api/labels/colleagues")
                .ok()
                .valueStream()
                .filter(who -> who.get("id").asLong() == server.idOf("tidier"))
                .findFirst()
                .orElseThrow();
        editor.put(
                        "/api/labels/ROUTE",
                        Map.of(
                                "ids",
                                List.of(one),
                                "ownerId",
                                colleague.get("id").asLong(),
                                "withoutOwner",
                                false,
                                "add",
                                List.of(),
                                "remove",
                                List.of()))
                .ok();
        assertThat(of(one).get("owner").asString())
                .isEqualTo(colleague.get("name").asString());
        editor.put("/api/labels/ROUTE", change(List.of(one), List.of("x"), List.of("x")))
                .ok();
        assertThat(of(one).has("owner")).as("a change of tags leaves the owner").isTrue();
        editor.put(
                        "/api/labels/ROUTE",
                        Map.of("ids", List.of(one), "withoutOwner", true, "add", List.of(), "remove", List.of()))
                .ok();
        assertThat(of(one).has("owner")).isFalse();
        assertThat(server.journal("changed owner or tags"))
                .extracting(JsonNode::toString)
                .anySatisfy(entry -> assertThat(entry).contains("tag mail added, tag weekly removed", "Other"))
                .anySatisfy(entry -> assertThat(entry).contains("owned by nobody", "One"));
    }

    @Test
    void whatIsWrongChangesNothing() {
        JsonNode before = editor.get("/api/labels/ROUTE").ok();
        for (Map<String, Object> wrong : List.<Map<String, Object>>of(
                change(List.of(), List.of("a"), List.of()),
                change(List.of(one, 999_999L), List.of("a"), List.of()),
                change(List.of(one), List.of(" "), List.of()),
                change(List.of(one), List.of("x".repeat(41)), List.of()),
                change(
                        List.of(one),
                        java.util.stream.IntStream.range(0, 21)
                                .mapToObj(i -> "t" + i)
                                .toList(),
                        List.of()),
                Map.of(
                        "ids",
                        List.of(one),
                        "ownerId",
                        999_999L,
                        "withoutOwner",
                        false,
                        "add",
                        List.of("a"),
                        "remove",
                        List.of()))) {
            assertThat(editor.put("/api/labels/ROUTE", wrong).status())
                    .as("%s", wrong)
                    .isEqualTo(422);
        }
        assertThat(editor.get("/api/labels/ROUTE").ok()).isEqualTo(before);
        assertThat(editor.get("/api/labels/BOAT").status()).isBetween(400, 422);
    }

    @Test
    void whoeverMayOnlyLookSeesThemAndChangesNone() {
        TestUser viewer = server.user("VIEWER", "onlooker-of-labels");
        viewer.get("/api/labels/ROUTE").ok();
        assertThat(viewer.put("/api/labels/ROUTE", change(List.of(one), List.of("a"), List.of()))
                        .status())
                .isEqualTo(403);
    }
}
