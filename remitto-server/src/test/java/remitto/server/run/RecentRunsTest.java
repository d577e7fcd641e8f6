package remitto.server.run;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.time.LocalTime;
import java.util.Optional;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import remitto.core.timetable.Schedule;
import remitto.server.harness.TestRoute;
import remitto.server.harness.TestServer;
import remitto.server.harness.TestUser;
import tools.jackson.databind.JsonNode;

/** A list of routes tells at a glance how their last runs went, and which is behind. */
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class RecentRunsTest {
    private TestServer server;
    private TestUser editor;
    private TestRoute route;

    @BeforeAll
    void start() {
        server = TestServer.start();
        editor = server.user("EDITOR", "watcher");
        route = new TestRoute(server, editor);
    }

    @AfterAll
    void stop() {
        server.close();
    }

    private JsonNode of(long id) {
        return editor.get("/api/runs/recent")
                .ok()
                .valueStream()
                .filter(one -> one.get("routeId").asLong() == id)
                .findFirst()
                .orElseThrow();
    }

    @Test
    void theLatestRunsInTheirOrderWithWhatTheySent() {
        long id = route.add(editor, "Recipients", TestRoute.spec(Optional.empty()));
        assertThat(of(id).get("runs")).isEmpty();
        assertThat(of(id).get("behind").asBoolean()).isFalse();
        long first = route.run(id).get("id").asLong();
        long second = route.run(id).get("id").asLong();
        JsonNode seen = of(id);
        assertThat(seen.get("runs").valueStream().map(run -> run.get("runId").asLong()))
                .containsExactly(first, second);
        assertThat(seen.get("runs").get(0).get("moving").asInt()).isPositive();
        assertThat(seen.get("runs").get(1).get("moving").asInt()).isZero();
        assertThat(seen.get("runs").get(1).get("state").asString()).isEqualTo("SENT");
        assertThat(seen.has("lastSentAt")).isTrue();
        JsonNode dataset = editor.get("/api/datasets/" + route.dataset()).ok();
        assertThat(dataset.get("freshness").get("rows").asInt())
                .as("a run that read everything tells how many rows there are")
                .isPositive();
    }

    @Test
    void aRouteIsBehindOnceADepartureIsMissing() {
        Schedule daily = new Schedule.Daily(LocalTime.of(6, 0), "UTC");
        Optional<Instant> yesterday = Optional.of(Instant.parse("2026-11-26T06:00:10Z"));
        assertThat(RecentRuns.isBehind(daily, yesterday, Instant.parse("2026-11-27T05:59:00Z")))
                .isFalse();
        assertThat(RecentRuns.isBehind(daily, yesterday, Instant.parse("2026-11-27T06:10:00Z")))
                .as("it may be under way")
                .isFalse();
        assertThat(RecentRuns.isBehind(daily, yesterday, Instant.parse("2026-11-27T06:16:00Z")))
                .isTrue();
        assertThat(RecentRuns.isBehind(daily, Optional.empty(), Instant.parse("2026-11-27T06:16:00Z")))
                .isFalse();
        assertThat(RecentRuns.isBehind(new Schedule.ByHand("UTC"), yesterday, Instant.parse("2027-11-27T06:16:00Z")))
                .isFalse();
    }
}
