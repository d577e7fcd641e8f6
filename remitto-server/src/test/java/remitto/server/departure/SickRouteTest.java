package remitto.server.departure;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.time.LocalTime;
import java.util.Optional;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import remitto.core.route.RouteSpec;
import remitto.core.timetable.Schedule;
import remitto.server.harness.Awaited;
import remitto.server.harness.TestRoute;
import remitto.server.harness.TestServer;
import remitto.server.harness.TestUser;
import tools.jackson.databind.JsonNode;

/** One sick route or destination stops no other, and the timetable goes on. */
class SickRouteTest {
    private TestServer server;
    private TestUser editor;
    private TestRoute shop;

    @BeforeEach
    void start() {
        server = TestServer.start(java.util.Map.of("remitto.session.longest", "30d"));
        editor = server.user("EDITOR");
        shop = new TestRoute(server, editor);
    }

    @AfterEach
    void stop() {
        server.close();
    }

    private static RouteSpec daily(LocalTime at) {
        RouteSpec spec = TestRoute.spec(Optional.empty());
        return new RouteSpec(
                spec.mode(),
                spec.match(),
                spec.rules(),
                spec.basis(),
                spec.guards(),
                new Schedule.Daily(at, "UTC"),
                spec.leavers(),
                spec.firstRun(),
                spec.waves(),
                spec.after(),
                spec.joined());
    }

    @Test
    void aDestinationThatCannotBeOpenedStopsNoLaterRoute() {
        long sick = shop.add(editor, "A sick route", daily(LocalTime.of(10, 0)));
        long sound = shop.add(editor, "B sound route", daily(LocalTime.of(10, 0)));
        // The sick route's destination is another, and what it is called by is gone.
        server.cluster().run(server.database(), """
                insert into destination (name, profile, profile_version, settings, secret, sign_in, limits_off, created_at, let_in)
                select 'Broken', profile, profile_version, '{"base_address": "nowhere"}', '\\x00', '', true, created_at, '{}'
                from destination limit 1;
                update route set destination_id = (select id from destination where name = 'Broken') where id = %d
                """.formatted(sick));
        server.clock().forward(Duration.ofHours(2));
        JsonNode ran = awaitRun(sound);
        assertThat(ran.get("trigger").asString()).isEqualTo("TIMETABLE");
        assertThat(shop.await(ran.get("id").asLong()).get("state").asString()).isEqualTo("SENT");
        assertThat(awaitRun(sick).get("state").asString()).isEqualTo("SKIPPED");
        assertThat(awaitRun(sick).get("message").asString()).contains("could not depart");
        server.clock().forward(Duration.ofDays(1));
        long first = ran.get("id").asLong();
        Awaited.until("the sound route departs again", () -> latest(sound)
                .filter(run -> run.get("id").asLong() != first)
                .isPresent());
    }

    private JsonNode awaitRun(long route) {
        return Awaited.value("route " + route + " departs", () -> latest(route), Optional::isPresent)
                .orElseThrow();
    }

    private Optional<JsonNode> latest(long route) {
        return editor.get("/api/runs?routeId=" + route)
                .ok()
                .get("runs")
                .valueStream()
                .findFirst();
    }
}
