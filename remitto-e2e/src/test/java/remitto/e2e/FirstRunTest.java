package remitto.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Map;
import org.junit.jupiter.api.Test;
import remitto.core.route.FirstRun.AlreadyThere;
import remitto.core.route.FirstRun.OlderRows;
import tools.jackson.databind.JsonNode;

/** What happens to records and rows that are older than the route. */
class FirstRunTest extends RouteRunsFixture {
    FirstRunTest() {
        super(300);
    }

    @Test
    void whatWasThereBeforeIsLeftAndOlderRowsWaitWhenTheRouteSaysSo() {
        String key = "P-20001";
        stack.change("update ferry.pass_holders set status = 'active', mail_consent = 'yes' where pass_number = '" + key
                + "'");
        if (stack.change("update ferry.pass_holders set updated_at = updated_at where pass_number = '" + key + "'")
                == 0) {
            stack.change("insert into ferry.pass_holders (pass_number, given_name, family_name, email, country, status,"
                    + " mail_consent, updated_at) values ('" + key
                    + "', 'Aino', 'Berg', 'aino@kai.example', 'NO', 'active',"
                    + " 'yes', timestamptz '2026-11-20')");
        }
        stack.desk.add("contact", Map.of("external_ref", key, "family_name", "There before", "given_name", "X"));
        putInService(ids.passes(), passes().firstRun(AlreadyThere.LEAVE, OlderRows.SEND));
        run(ids.passes());
        assertThat(there("contact", "external_ref", "family_name")).containsEntry(key, "There before");
        putInService(ids.passes(), passes().firstRun(AlreadyThere.ADOPT, OlderRows.SEND));
        JsonNode adopting = run(ids.passes());
        assertThat(adopting.get("adopted").asLong()).isEqualTo(1);
        assertThat(there("contact", "external_ref", "family_name")).doesNotContainEntry(key, "There before");

        putInService(ids.freight(), editorSpec(ids.freight()).firstRun(AlreadyThere.ADOPT, OlderRows.WAIT_FOR_CHANGE));
        JsonNode older = prepare(ids.freight());
        assertThat(sum(older, "added")).isZero();
        assertThat(sum(older, "leftOut")).isEqualTo(sum(older, "read"));
        assertThat(stack.change("update ferry.freight_companies set credit_limit = credit_limit + 1 where vat_number ="
                        + " (select min(vat_number) from ferry.freight_companies)"))
                .isEqualTo(1);
        JsonNode changed = prepare(ids.freight());
        assertThat(sum(changed, "added")).as("only what changed since").isEqualTo(1);
        assertThat(lines(changed, "&verdict=LEFT_OUT").get(0).get("reason").asString())
                .contains("Older than this route");
    }
}
