package remitto.server.search;

import static org.assertj.core.api.Assertions.assertThat;

import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import remitto.core.fieldrule.FieldRule;
import remitto.core.fieldrule.Receives;
import remitto.server.harness.TestRoute;
import remitto.server.harness.TestServer;
import remitto.server.harness.TestUser;
import tools.jackson.databind.JsonNode;

/** Anything is found by typing what one has: an id of a tool, the key of a row, a name of a field, a number of a manifest. */
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class SearchTest {
    private TestServer server;
    private TestUser editor;
    private TestRoute route;
    private long run;

    @BeforeAll
    void start() {
        server = TestServer.start();
        editor = server.user("EDITOR", "finder");
        route = new TestRoute(server, editor);
        long sent = route.add(editor, "Recipients", TestRoute.spec(Optional.empty()));
        run = route.run(sent).get("id").asLong();
        long keyed = route.dataset(
                editor,
                "By address",
                "select 'P' || id || '@mail.example' as email, 5000 + id as id, town from shop.customers where id < 4",
                Map.of("email", "KEY", "id", "ATTRIBUTE", "town", "ATTRIBUTE"));
        long byAddress = route.add(
                editor,
                "By address",
                keyed,
                TestRoute.spec(Optional.empty())
                        .rules(List.of(
                                FieldRule.of("id", new Receives.FromColumn("id")),
                                FieldRule.of("town", new Receives.FromColumn("town")))));
        route.run(byAddress);
    }

    @AfterAll
    void stop() {
        server.close();
    }

    private static JsonNode find(TestUser who, String text) {
        return who.get("/api/search?text=" + URLEncoder.encode(text, StandardCharsets.UTF_8))
                .ok();
    }

    @Test
    void aRecordIsFoundByItsIdThere() {
        JsonNode records = find(editor, " 7 ").get("records");
        assertThat(records).hasSize(1);
        assertThat(records.get(0).get("object").asString()).isEqualTo("recipients");
        assertThat(records.get(0).get("remoteId").asString()).isEqualTo("7");
        assertThat(records.get(0).get("route").asString()).isEqualTo("Recipients");
    }

    @Test
    void aRecordIsFoundByTheKeyOfItsRowWhichIsMaskedForOthers() {
        JsonNode found = find(editor, "P2@mail.example").get("records").get(0);
        assertThat(found.get("remoteId").asString()).isEqualTo("5002");
        assertThat(found.get("key").asString()).isEqualTo("P2@mail.example");
        JsonNode masked = find(server.user("VIEWER", "masked-finder"), "P2@mail.example")
                .get("records")
                .get(0);
        assertThat(masked.get("key").asString()).isNotEmpty().doesNotContain("P2@mail");
    }

    @Test
    void aFieldIsFoundByAPartOfItsName() {
        assertThat(find(editor, "TOW").get("fields"))
                .extracting(one ->
                        one.get("object").asString() + "." + one.get("field").asString())
                .contains("recipients.town");
        assertThat(find(editor, "no such field").get("fields")).isEmpty();
    }

    @Test
    void aManifestIsFoundByItsNumberHoweverItIsSpelled() {
        for (String spelled : List.of("" + run, "no. " + run, "#" + run)) {
            JsonNode manifests = find(editor, spelled).get("manifests");
            assertThat(manifests).as(spelled).hasSize(1);
            assertThat(manifests.get(0).get("route").asString()).isEqualTo("Recipients");
        }
        assertThat(find(editor, "999999").get("manifests")).isEmpty();
        assertThat(find(editor, run + "x").get("manifests")).isEmpty();
    }

    @Test
    void whatIsNoSearchFindsNothingOrIsRefused() {
        JsonNode nothing = find(editor, "  ");
        assertThat(nothing.get("records")).isEmpty();
        assertThat(nothing.get("fields")).isEmpty();
        assertThat(editor.get("/api/search?text=" + "x".repeat(201)).status()).isEqualTo(422);
        assertThat(find(editor, "%' or 1=1 --").get("records")).isEmpty();
        assertThat(server.stranger().get("/api/search?text=7").status()).isEqualTo(401);
    }
}
