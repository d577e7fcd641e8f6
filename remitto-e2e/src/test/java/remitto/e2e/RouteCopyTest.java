package remitto.e2e;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** Routes copied to the same object and to another. */
class RouteCopyTest extends RouteRunsFixture {
    RouteCopyTest() {
        super(60);
    }

    private Map<String, Object> request(String name, String object) {
        return Map.of("name", name, "destinationId", ids.purser(), "object", object);
    }

    @Test
    void aCopyHasEveryVersionAndNothingInService() {
        putInService(ids.passes(), passes());
        JsonNode copy =
                editor.post("/api/routes/" + ids.passes() + "/copy", request("Commuter passes, trial", "contact"));
        long id = copy.get("id").asLong();
        assertThat(copy.get("latestVersion").asInt()).isEqualTo(2);
        assertThat(copy.has("liveVersion")).isFalse();
        assertThat(editor.get("/api/routes/" + id + "/versions").size()).isEqualTo(2);
        assertThat(copy.get("spec"))
                .isEqualTo(editor.get("/api/routes/" + ids.passes()).get("spec"));
        assertThat(editor.get("/api/runs?routeId=" + id).get("runs")).isEmpty();
        assertThatThrownBy(() -> editor.post(
                        "/api/routes/" + ids.passes() + "/copy", request("Commuter passes, trial", "contact")))
                .hasMessageContaining("A route already has the name Commuter passes, trial");
    }

    @Test
    void whatIsDifferentInAnotherObjectIsSaidBeforehand() {
        JsonNode same = editor.get("/api/routes/" + ids.passes() + "/object-differences?destinationId=" + ids.purser()
                + "&object=contact");
        assertThat(same).isEmpty();
        List<String> other = editor.get("/api/routes/" + ids.passes() + "/object-differences?destinationId="
                        + ids.purser() + "&object=lead")
                .valueStream()
                .map(one -> one.get("field").asString() + " " + one.get("text").asString())
                .toList();
        assertThat(other)
                .contains(
                        "email is required in that destination",
                        "given_name does not exist in that destination, so its rule has nothing to write to",
                        "name is required in that destination, and no rule says what it receives");
        JsonNode copy = editor.post("/api/routes/" + ids.passes() + "/copy", request("Passes as leads", "lead"));
        assertThatThrownBy(() ->
                        editor.post("/api/routes/" + copy.get("id").asLong() + "/in-service", Map.of("version", 1)))
                .hasMessageContaining("The object has no such field");
    }
}
