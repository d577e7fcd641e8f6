package remitto.e2e;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** What is known compared with what is really there. */
class StocktakeTest extends RouteRunsFixture {
    StocktakeTest() {
        super(300);
    }

    @Test
    void stocktakeFindsWhatWasEditedDeletedAndAddedThereAndTheNextRunActsOnTheDecisions() {
        putInService(ids.passes(), passes());
        JsonNode first = run(ids.passes());
        List<JsonNode> sent = lines(first, "&verdict=ADDED");
        String adopted = sent.get(0).get("remoteId").asString();
        String overwritten = sent.get(1).get("remoteId").asString();
        String deleted = sent.get(2).get("remoteId").asString();
        stack.desk.edit("contact", adopted, Map.of("given_name", "Theirs"));
        stack.desk.edit("contact", overwritten, Map.of("family_name", "Theirs"));
        stack.desk.delete("contact", deleted);
        stack.desk.add("contact", Map.of("external_ref", "DESK-1", "family_name", "Stray"));
        JsonNode stocktake = takeStock("contact");
        long id = stocktake.get("id").asLong();
        Map<String, Long> found = new HashMap<>();
        stocktake
                .get("groups")
                .forEach(group -> found.put(
                        group.get("kind").asString(), group.get("found").asLong()));
        assertThat(found)
                .containsEntry("EDITED", 2L)
                .containsEntry("DELETED", 1L)
                .containsEntry("STRAY", 1L);
        assertThat(stocktake.get("there").asLong()).isEqualTo(sent.size());
        JsonNode edits =
                editor.get("/api/stocktakes/" + id + "/findings?kind=EDITED").get("findings");
        for (JsonNode edit : edits) {
            String action = edit.get("remoteId").asString().equals(adopted) ? "ADOPT" : "OVERWRITE";
            editor.post(
                    "/api/stocktakes/" + id + "/decisions",
                    Map.of(
                            "kind",
                            "EDITED",
                            "action",
                            action,
                            "numbers",
                            List.of(edit.get("number").asInt())));
        }
        editor.post(
                "/api/stocktakes/" + id + "/decisions",
                Map.of("kind", "DELETED", "action", "FORGET", "numbers", List.of()));
        JsonNode next = run(ids.passes());
        assertThat(sum(next, "added")).as("the record that was forgotten").isEqualTo(1);
        assertThat(sum(next, "changed")).as("the edit that is overwritten").isEqualTo(1);
        assertThat(there("contact", "external_ref", "given_name"))
                .containsEntry(sent.get(0).get("key").asString(), "Theirs");
        assertThat(there("contact", "external_ref", "family_name"))
                .doesNotContainEntry(sent.get(1).get("key").asString(), "Theirs");
        assertThatThrownBy(() -> editor.post(
                        "/api/stocktakes/" + id + "/decisions",
                        Map.of("kind", "STRAY", "action", "FORGET", "numbers", List.of())))
                .hasMessageContaining("cannot be done");
    }

    private static Map<String, Long> found(JsonNode stocktake) {
        Map<String, Long> found = new HashMap<>();
        stocktake
                .get("groups")
                .forEach(group -> found.put(
                        group.get("kind").asString(), group.get("found").asLong()));
        return found;
    }

    @Test
    void changesAreReadSinceTheLastStocktakeAndWhatItFoundStandsUntilItIsSettled() {
        putInService(ids.passes(), passes());
        List<JsonNode> sent = lines(run(ids.passes()), "&verdict=ADDED");
        assertThatThrownBy(() -> takeStock("contact", true)).hasMessageContaining("Run a full one first");
        stack.desk.add("contact", Map.of("external_ref", "DESK-1", "family_name", "Stray"));
        JsonNode whole = takeStock("contact");
        assertThat(whole.has("since")).isFalse();
        assertThat(whole.get("changesCanFollow").asBoolean()).isTrue();

        String edited = sent.get(0).get("remoteId").asString();
        stack.desk.edit("contact", edited, Map.of("given_name", "Theirs"));
        stack.desk.delete("contact", sent.get(1).get("remoteId").asString());
        JsonNode changes = takeStock("contact", true);
        assertThat(changes.get("baseId").asLong()).isEqualTo(whole.get("id").asLong());
        assertThat(found(changes)).containsAllEntriesOf(Map.of("EDITED", 1L, "DELETED", 1L, "STRAY", 1L));

        stack.server().clock().set(stack.server().clock().instant().plusSeconds(3_600));
        takeStock("contact", true);
        JsonNode nothing = takeStock("contact", true);
        assertThat(nothing.get("there").asLong())
                .as("nothing was changed after the last one by this clock, so nothing is read")
                .isZero();
        assertThat(found(nothing))
                .as("what was found before and nobody settled still stands")
                .containsAllEntriesOf(Map.of("EDITED", 1L, "DELETED", 1L, "STRAY", 1L));
        assertThat(nothing.get("fill"))
                .as("how full fields are is known of whole counts only")
                .isEmpty();
        editor.post(
                "/api/stocktakes/" + nothing.get("id").asLong() + "/decisions",
                Map.of("kind", "DELETED", "action", "FORGET", "numbers", List.of()));
        assertThat(found(takeStock("contact", true))).containsAllEntriesOf(Map.of("EDITED", 1L, "DELETED", 0L));
    }

    @Test
    void sendingAfreshComparesWithWhatIsReallyThere() {
        putInService(ids.passes(), passes());
        JsonNode first = run(ids.passes());
        JsonNode one = lines(first, "&verdict=ADDED").get(0);
        stack.desk.edit("contact", one.get("remoteId").asString(), Map.of("given_name", "Theirs"));
        assertThat(prepare(ids.passes()).get("message").asString()).isEqualTo("Nothing to send");
        editor.post("/api/routes/" + ids.passes() + "/resend", Map.of("fields", List.of(), "keys", List.of()));
        JsonNode next = prepare(ids.passes());
        assertThat(sum(next, "changed")).isEqualTo(1);
        assertThat(sum(next, "added")).isZero();
    }
}
