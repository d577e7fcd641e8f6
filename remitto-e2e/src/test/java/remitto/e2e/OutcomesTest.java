package remitto.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import remitto.core.guard.Guards;
import remitto.demo.history.Desk;
import remitto.demo.history.MoreRoutes;
import tools.jackson.databind.JsonNode;

/** Outcomes that nobody knows, and runs that are paused. */
class OutcomesTest extends RouteRunsFixture {
    OutcomesTest() {
        super(300);
    }

    @Test
    void anOutcomeThatCannotBeFoundOutIsHeldForAPerson() {
        MoreRoutes.Ids more = new MoreRoutes(editor, scenario)
                .setUp(ids, new MoreRoutes.Outlets(address(stack.lamplight.port()), address(stack.foghorn.port())));
        Desk fog = new Desk(java.net.URI.create(address(stack.foghorn.port())));
        fog.limit(false);
        run(more.notices());
        stack.change(
                "insert into ferry.invoices select 900000 + n, (select min(vat_number) from ferry.freight_companies"
                        + " where vat_number <> ''), date '2026-11-20', 20000 + n, 'NOK', 1 from generate_series(1, 3) as n");
        fog.faults("[{\"fault\":\"drop-after\",\"on\":\"say\",\"next\":1}]");
        JsonNode sent = run(more.notices());
        assertThat(outcome(sent, "UNKNOWN")).isEqualTo(1);
        assertThat(outcome(sent, "ACKNOWLEDGED")).isEqualTo(2);
        JsonNode group = editor.get("/api/held").get("groups").get(0);
        assertThat(group.get("code").asString()).isEqualTo("outcome-unknown");
        JsonNode next = prepare(more.notices());
        assertThat(sum(next, "added")).as("it is not sent again unasked").isZero();
        assertThat(sum(next, "held")).isEqualTo(1);
        editor.post("/api/routes/" + more.notices() + "/held/unknown", Map.of("keys", List.of(), "arrived", true));
        JsonNode after = prepare(more.notices());
        assertThat(sum(after, "held")).isZero();
        assertThat(sum(after, "added")).isZero();
        assertThat(fog.get("/control/messages").split("Large invoice").length - 1)
                .isEqualTo(3);
    }

    @Test
    void aPauseFinishesTheCallsInFlightAndResumingDrawsUpAnew() {
        smallerCalls();
        putInService(ids.freight(), editorSpec(ids.freight()).guards(Guards.none()));
        stack.desk.faults("[{\"fault\":\"latency\",\"on\":\"batch\",\"share\":1,\"millis\":900}]");
        JsonNode prepared = prepare(ids.freight());
        long id = prepared.get("id").asLong();
        long before = stack.testimony().last();
        editor.post("/api/runs/" + id + "/send", Map.of());
        while (stack.testimony().last() == before) {
            Thread.onSpinWait();
        }
        editor.post("/api/routes/" + ids.freight() + "/pause", Map.of("paused", true));
        JsonNode paused = editor.await(id);
        stack.desk.faults("[]");
        assertThat(paused.get("suspension").asString()).isEqualTo("PAUSED");
        assertThat(outcome(paused, "ACKNOWLEDGED")).as("what was under way").isPositive();
        assertThat(outcome(paused, "PLANNED")).as("what was not").isPositive();
        editor.post("/api/routes/" + ids.freight() + "/pause", Map.of("paused", false));
        editor.awaitAll();
        JsonNode fresh =
                editor.get("/api/runs?routeId=" + ids.freight()).get("runs").get(0);
        assertThat(fresh.get("id").asLong()).isGreaterThan(id);
        assertThat(sum(fresh, "added")).isEqualTo(outcome(paused, "PLANNED"));
        assertThat(send(fresh).get("state").asString()).isEqualTo("SENT");
        assertThat(new WriteLog(stack.folder).effects("company"))
                .hasSize((int) sum(prepared, "added"))
                .allSatisfy((write, times) -> assertThat(times).as(write).isEqualTo(1));
        stack.assertNothingDoubled();
    }
}
