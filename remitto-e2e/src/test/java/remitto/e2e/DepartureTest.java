package remitto.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.time.Instant;
import java.util.Map;
import java.util.stream.StreamSupport;
import org.junit.jupiter.api.Test;
import remitto.server.departure.Departures;
import tools.jackson.databind.JsonNode;

/** The timetable, with the server's clock moved by hand. */
class DepartureTest extends RouteRunsFixture {
    DepartureTest() {
        super(200);
    }

    private Instant due(long route) {
        return Instant.parse(
                editor.get("/api/routes/" + route).get("nextDeparture").asString());
    }

    private long runs(long route, String state) {
        return StreamSupport.stream(
                        editor.get("/api/runs?routeId=" + route).get("runs").spliterator(), false)
                .filter(run -> run.get("state").asString().equals(state))
                .count();
    }

    private void departDue() {
        stack.server().bean(Departures.class).departDue();
        editor.until("/api/runs", DepartureTest::nothingIsOnItsWay);
    }

    /** A departure's manifest is prepared for a moment before it goes by itself; asked in one answer, lest it begins to go in between. */
    private static boolean nothingIsOnItsWay(JsonNode runs) {
        return runs.get("runs").valueStream().noneMatch(run -> {
            String state = run.get("state").asString();
            boolean goesByItself = run.get("trigger").asString().equals("TIMETABLE");
            return state.equals("PREPARING") || state.equals("SENDING") || (goesByItself && state.equals("READY"));
        });
    }

    @Test
    void aRouteDepartsWhenItIsDueOnceAndSendsByItself() {
        Instant due = due(ids.freight());
        stack.server().clock().set(due.plusSeconds(1));
        departDue();
        departDue();
        assertThat(runs(ids.freight(), "SENT")).isEqualTo(1);
        assertThat(due(ids.freight())).isAfterOrEqualTo(due.plus(Duration.ofHours(23)));
        JsonNode run =
                editor.get("/api/runs?routeId=" + ids.freight()).get("runs").get(0);
        assertThat(run.get("trigger").asString()).isEqualTo("TIMETABLE");
        assertThat(run.get("startedBy").asString()).isEqualTo("timetable");
    }

    @Test
    void departuresMissedWhileNothingRanAreMadeUpForOnce() {
        stack.server().clock().set(due(ids.freight()).plus(Duration.ofDays(4)));
        departDue();
        assertThat(runs(ids.freight(), "SENT")).isEqualTo(1);
    }

    @Test
    void aDepartureIsSkippedAndSaysSoWhileAManifestWaits() {
        long waiting = editor.post("/api/routes/" + ids.freight() + "/runs", Map.of())
                .get("runId")
                .asLong();
        assertThat(editor.await(waiting).get("state").asString()).isEqualTo("READY");
        stack.server().clock().set(due(ids.freight()).plusSeconds(1));
        departDue();
        JsonNode skipped =
                editor.get("/api/runs?routeId=" + ids.freight()).get("runs").get(0);
        assertThat(skipped.get("state").asString()).isEqualTo("SKIPPED");
        assertThat(skipped.get("message").asString()).isEqualTo("Manifest " + waiting + " waits");
    }

    @Test
    void aPausedRouteStaysAndDrawsUpAnewAfterwards() {
        editor.post("/api/routes/" + ids.freight() + "/pause", Map.of("paused", true));
        stack.server().clock().set(Instant.now().plus(Duration.ofDays(2)));
        departDue();
        assertThat(editor.get("/api/runs?routeId=" + ids.freight()).get("runs")).isEmpty();
        editor.post("/api/routes/" + ids.freight() + "/pause", Map.of("paused", false));
        stack.server().clock().set(due(ids.freight()).plusSeconds(1));
        departDue();
        assertThat(runs(ids.freight(), "SENT")).isEqualTo(1);
    }

    @Test
    void aDepartureWhoseServerIsKilledWhileItIsDrawnUpDepartsAgain() {
        stack.desk.faults("[{\"fault\":\"latency\",\"on\":\"find\",\"share\":1,\"millis\":700}]");
        stack.server().clock().set(due(ids.passes()).plusSeconds(1));
        stack.server().bean(Departures.class).departDue();
        stack.killServer();
        stack.desk.faults("[]");
        editor = stack.user("EDITOR");

        JsonNode again =
                editor.get("/api/runs?routeId=" + ids.passes()).get("runs").get(0);
        while (again.get("state").asString().matches("PREPARING|READY|SENDING|INTERRUPTED")
                || runs(ids.passes(), "INTERRUPTED") == 0) {
            editor.awaitAll();
            again = editor.get("/api/runs?routeId=" + ids.passes()).get("runs").get(0);
        }
        assertThat(again.get("trigger").asString()).isEqualTo("TIMETABLE");
        assertThat(again.get("state").asString()).isEqualTo("SENT");
    }

    @Test
    void aDepartureThatFailsSaysSo() {
        stack.server().clock().set(due(ids.freight()).plusSeconds(1));
        stack.change("alter table ferry.freight_companies rename to gone_companies");
        departDue();
        JsonNode failed =
                editor.get("/api/runs?routeId=" + ids.freight()).get("runs").get(0);
        assertThat(failed.get("state").asString()).isEqualTo("FAILED");
        assertThat(failed.get("trigger").asString()).isEqualTo("TIMETABLE");
    }

    @Test
    void anEmptyDatasetStopsTheRun() {
        stack.change("delete from ferry.freight_companies");
        long run = editor.post("/api/routes/" + ids.freight() + "/runs", Map.of())
                .get("runId")
                .asLong();
        JsonNode stopped = editor.await(run);
        assertThat(stopped.get("state").asString()).isEqualTo("AWAITING_APPROVAL");
        assertThat(stopped.get("message").asString()).contains("The dataset is empty");
    }

    @Test
    void aRunAgainstAWarehouseThatLostItsTableFailsInWords() {
        stack.change("drop table ferry.freight_companies cascade");
        long run = editor.post("/api/routes/" + ids.freight() + "/runs", Map.of())
                .get("runId")
                .asLong();
        JsonNode failed = editor.await(run);
        assertThat(failed.get("state").asString()).isEqualTo("FAILED");
        assertThat(failed.get("message").asString())
                .contains("freight_companies")
                .contains("Nothing was sent");
    }
}
