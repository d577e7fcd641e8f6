package remitto.server.archive;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import remitto.server.harness.TestRoute;
import remitto.server.harness.TestServer;
import remitto.server.harness.TestUser;

/** Everything that was made can be taken away again, from the outside in, and history goes on naming it. */
class ArchiveTest {
    private TestServer server;
    private TestUser editor;
    private TestRoute shop;
    private long route;
    private long run;

    @BeforeEach
    void aRouteThatSent() {
        server = TestServer.start();
        editor = server.user("EDITOR");
        shop = new TestRoute(server, editor);
        route = shop.add(editor, "Recipients", TestRoute.spec(Optional.empty()));
        run = shop.run(route).get("id").asLong();
    }

    @AfterEach
    void stop() {
        server.close();
    }

    private void refused(String path, String... users) {
        TestUser.Answer answer = editor.delete(path);
        assertThat(answer.status()).as(path).isEqualTo(409);
        assertThat(answer.detail()).contains(users);
        assertThat(editor.get(path + "/uses").ok()).isNotEmpty();
    }

    private List<String> names(String path) {
        return editor.get(path)
                .ok()
                .valueStream()
                .map(one -> one.get("name").asString())
                .toList();
    }

    @Test
    void fromTheOutsideInUntilNothingIsLeftAndHistoryStaysReadable() {
        refused("/api/sources/" + shop.source(), "Shop is used by dataset Customers.");
        refused("/api/datasets/" + shop.dataset(), "Customers is used by route Recipients.");
        refused("/api/destinations/" + shop.destination(), "is used by route Recipients.");
        TestUser.Answer profile = editor.delete("/api/profiles/database-table");
        assertThat(profile.status()).isEqualTo(409);

        assertThat(editor.delete("/api/routes/" + route).status()).isEqualTo(204);
        assertThat(names("/api/routes")).isEmpty();
        assertThat(editor.get("/api/runs/" + run).ok().get("route").asString())
                .isEqualTo("Recipients (archived " + route + ")");
        assertThat(editor.get("/api/runs/" + run + "/lines").ok().toString()).contains("person7@mail.example");
        assertThat(editor.post("/api/routes/" + route + "/runs", Map.of()).status())
                .isEqualTo(409);
        assertThat(editor.post("/api/routes/" + route + "/in-service", Map.of("version", 1))
                        .status())
                .isEqualTo(409);
        assertThat(editor.delete("/api/routes/" + route).status())
                .as("once only")
                .isEqualTo(404);

        assertThat(editor.delete("/api/datasets/" + shop.dataset()).status()).isEqualTo(204);
        assertThat(editor.delete("/api/destinations/" + shop.destination()).status())
                .isEqualTo(204);
        assertThat(editor.delete("/api/profiles/database-table").status()).isEqualTo(204);
        assertThat(editor.delete("/api/sources/" + shop.source()).status()).isEqualTo(204);
        assertThat(names("/api/datasets")).isEmpty();
        assertThat(names("/api/destinations")).isEmpty();
        assertThat(names("/api/sources")).doesNotContain("Shop");
        assertThat(server.journal("archived route").get(0).get("subject").asString())
                .isEqualTo("Recipients");
        server.warehouse().connect(editor, "Shop", "shop_reader");
        assertThat(names("/api/sources")).as("the name is free again").contains("Shop");
    }

    @Test
    void whatWaitsOrIsWaitedForStays() {
        server.warehouse().run("delete from shop.customers where id = 1");
        long waiting = shop.prepare(route).get("id").asLong();
        refused("/api/routes/" + route, "manifest " + waiting);
        editor.post("/api/runs/" + waiting + "/discard", Map.of()).ok();
        long recordPreview = shop.add(editor, "Follows", TestRoute.after(List.of(route)));
        refused("/api/routes/" + route, "route Follows, which waits for it");
        assertThat(editor.delete("/api/routes/" + recordPreview).status()).isEqualTo(204);
        assertThat(editor.delete("/api/routes/" + route).status()).isEqualTo(204);
    }

    @Test
    void aCrosswalkAndAnAudienceToo() {
        long crosswalk = editor.post(
                        "/api/crosswalks",
                        Map.of(
                                "name",
                                "Towns",
                                "description",
                                "",
                                "entries",
                                List.of(Map.of("from", "Lervik", "to", "LV"))))
                .ok()
                .get("id")
                .asLong();
        assertThat(editor.delete("/api/crosswalks/" + crosswalk).status()).isEqualTo(204);
        assertThat(names("/api/crosswalks")).isEmpty();
    }

    @Test
    void aViewerTakesNothingAway() {
        TestUser viewer = server.user("VIEWER");
        for (String path : List.of(
                "/api/routes/" + route,
                "/api/datasets/" + shop.dataset(),
                "/api/destinations/" + shop.destination(),
                "/api/sources/" + shop.source(),
                "/api/profiles/database-table")) {
            assertThat(viewer.delete(path).status()).as(path).isEqualTo(403);
        }
    }

    /** Reading never calls out for somebody who only looks on. */
    @Test
    void whatCallsADestinationOrReadsForLongIsNotAskedByLooking() {
        TestUser viewer = server.user("VIEWER");
        String destination = "/api/destinations/" + shop.destination();
        for (String path : List.of(
                destination + "/accounts",
                destination + "/prerequisites",
                destination + "/named?name=x",
                "/api/datasets/" + shop.dataset() + "/records",
                "/api/people/1/file")) {
            assertThat(viewer.get(path).status()).as(path).isEqualTo(403);
        }
        assertThat(viewer.post("/api/erasures/outlook/1", Map.of()).status()).isEqualTo(403);
        assertThat(editor.post("/api/erasures/outlook/1", Map.of()).status()).isEqualTo(403);
        assertThat(editor.get("/api/erasures/outlook/1").status()).isEqualTo(405);
        assertThat(viewer.post(destination + "/objects/recipients/refresh", Map.of())
                        .status())
                .isEqualTo(403);
        editor.post(destination + "/objects/recipients/refresh", Map.of()).ok();
    }
}
