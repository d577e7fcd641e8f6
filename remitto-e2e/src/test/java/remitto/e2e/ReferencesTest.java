package remitto.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import remitto.demo.history.MoreRoutes;
import tools.jackson.databind.JsonNode;

/** Records that refer to records of other routes. */
class ReferencesTest extends RouteRunsFixture {
    ReferencesTest() {
        super(300);
    }

    @Test
    void aChildWaitsForItsParentWithTheReason() {
        MoreRoutes.Ids more = new MoreRoutes(editor, scenario)
                .setUp(ids, new MoreRoutes.Outlets(address(stack.lamplight.port()), address(stack.foghorn.port())));
        JsonNode early = prepare(more.contacts());
        assertThat(sum(early, "added")).as("no company is there yet").isZero();
        assertThat(lines(early, "&verdict=HELD").get(0).get("reason").asString())
                .contains("company waits:")
                .contains("sent yet");
        run(ids.freight());
        JsonNode later = approved(run(more.contacts()));
        assertThat(outcome(later, "ACKNOWLEDGED")).isGreaterThan(10);
        Map<String, String> companies = there("contact", "external_ref", "company");
        assertThat(companies.values().stream().filter(id -> id.startsWith("4"))).isNotEmpty();
    }

    @Test
    void aChildFollowsItsParentToAnotherRecordThoughItsOwnRowIsAsItWas() {
        MoreRoutes.Ids more = new MoreRoutes(editor, scenario)
                .setUp(ids, new MoreRoutes.Outlets(address(stack.lamplight.port()), address(stack.foghorn.port())));
        run(ids.freight());
        approved(run(more.contacts()));
        assertThat(prepare(more.contacts()).get("message").asString()).isEqualTo("Nothing to send");
        String parent =
                there("contact", "external_ref", "company").values().iterator().next();
        long children = there("contact", "external_ref", "company").values().stream()
                .filter(parent::equals)
                .count();
        stack.desk.delete("company", parent);
        editor.post(
                "/api/stocktakes/" + takeStock("company").get("id").asLong() + "/decisions",
                Map.of("kind", "DELETED", "action", "FORGET", "numbers", List.of()));
        JsonNode again = approved(run(ids.freight()));
        assertThat(sum(again, "added")).as("%s", again).isEqualTo(1);
        String other = lines(again, "&verdict=ADDED").get(0).get("remoteId").asString();
        assertThat(other).isNotEqualTo(parent);

        JsonNode followed = approved(run(more.contacts()));
        assertThat(sum(followed, "changed")).isEqualTo(children);
        assertThat(there("contact", "external_ref", "company").values())
                .contains(other)
                .doesNotContain(parent);
    }
}
