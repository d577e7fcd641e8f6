package remitto.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import java.math.BigDecimal;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import remitto.core.guard.Guards;
import remitto.core.guard.Limit;
import remitto.core.route.Leavers;
import remitto.core.route.Waves;
import tools.jackson.databind.JsonNode;

/** Runs that wait for a word: after a first wave, or at a guard. */
class ApprovalTest extends RouteRunsFixture {
    ApprovalTest() {
        super(300);
    }

    @Test
    void aFirstWaveThatIsRefusedTooOftenWaitsForAWord() {
        stack.change("update ferry.pass_holders set mail_consent = 'yes' where status = 'active'");
        putInService(ids.passes(), passes().waves(new Waves(10, true, BigDecimal.valueOf(5))));
        stack.desk.faults("[{\"fault\":\"partial\",\"on\":\"batch\",\"next\":1}]");
        JsonNode suspended = run(ids.passes());
        assertThat(suspended.get("suspension").asString()).isEqualTo("WAVE");
        assertThat(outcome(suspended, "ACKNOWLEDGED") + outcome(suspended, "REFUSED"))
                .isEqualTo(10);
        assertThat(outcome(suspended, "REFUSED")).isEqualTo(5);
        editor.post("/api/runs/" + suspended.get("id").asLong() + "/send", Map.of());
        JsonNode sent = editor.await(suspended.get("id").asLong());
        assertThat(sent.get("state").asString()).isEqualTo("SENT");
        assertThat(outcome(sent, "ACKNOWLEDGED")).isEqualTo(sum(sent, "added") - 5);

        long retried = editor.post(
                        "/api/routes/" + ids.passes() + "/held/retry", Map.of("code", "refused", "keys", List.of()))
                .get("runId")
                .asLong();
        JsonNode retry = editor.await(retried, "SENT");
        assertThat(retry.get("trigger").asString()).isEqualTo("RETRY");
        assertThat(outcome(retry, "ACKNOWLEDGED")).isEqualTo(5);
        assertThat(editor.get("/api/held/records?code=refused").get("records")).isEmpty();
    }

    @Test
    void anApproverMayLetOnlyAPartGo() {
        putInService(
                ids.passes(),
                passes().leavers(new Leavers.Delete()).guards(Guards.none().removed(Limit.count(1))));
        run(ids.passes());
        int before = contacts().size();
        stack.change("delete from ferry.pass_holders where pass_number in (select pass_number from ferry.pass_holders"
                + " where status = 'active' and mail_consent = 'yes' order by 1 limit 4)");
        stack.change(
                "update ferry.pass_holders set given_name = 'Runa' where status = 'active' and mail_consent = 'yes'");
        JsonNode stopped = prepare(ids.passes());
        assertThat(stopped.get("state").asString()).isEqualTo("AWAITING_APPROVAL");
        assertThat(stopped.get("message").asString())
                .contains("Removes 4 of the ")
                .contains("the limit is 1.");
        JsonNode beside = editor.get("/api/runs/" + stopped.get("id").asLong() + "/comparison");
        assertThat(beside.get("counts").get("removed").asLong()).isZero();
        stack.user("APPROVER")
                .post(
                        "/api/runs/" + stopped.get("id").asLong() + "/approve",
                        Map.of("verdicts", List.of("CHANGED"), "without", List.of()));
        JsonNode sent = editor.await(stopped.get("id").asLong());
        assertThat(outcome(sent, "ACKNOWLEDGED")).isEqualTo(sum(sent, "changed"));
        assertThat(outcome(sent, "CANCELLED")).isEqualTo(4);
        assertThat(contacts()).hasSize(before);
    }
}
