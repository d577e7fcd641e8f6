package remitto.server.departure;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.time.LocalTime;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.Test;
import remitto.core.route.RouteSpec;
import remitto.core.timetable.Schedule;
import remitto.server.harness.Awaited;
import remitto.server.harness.TestRoute;
import remitto.server.harness.TestServer;
import remitto.server.harness.TestUser;
import tools.jackson.databind.JsonNode;

/** Routes depart by themselves when they are due, unless the installation is one that nothing departs from. */
class DeparturesTest {
    private static RouteSpec daily() {
        RouteSpec spec = TestRoute.spec(Optional.empty());
        return new RouteSpec(
                spec.mode(),
                spec.match(),
                spec.rules(),
                spec.basis(),
                spec.guards(),
                new Schedule.Daily(LocalTime.of(6, 0), "Europe/Oslo"),
                spec.leavers(),
                spec.firstRun(),
                spec.waves(),
                spec.after(),
                spec.joined());
    }

    private static JsonNode runs(TestUser editor, long route) {
        return editor.get("/api/runs?routeId=" + route).ok().get("runs");
    }

    @Test
    void aRouteDepartsByItself() throws Exception {
        try (TestServer server = TestServer.start()) {
            TestUser editor = server.user("EDITOR");
            TestRoute shop = new TestRoute(server, editor);
            long route = shop.add(editor, "Recipients", daily());
            assertThat(runs(editor, route)).isEmpty();
            server.clock().forward(Duration.ofDays(1));
            TestUser again = server.user("EDITOR");
            while (runs(again, route).isEmpty()) {
                TimeUnit.MILLISECONDS.sleep(50);
            }
            assertThat(runs(again, route).get(0).get("trigger").asString()).isEqualTo("TIMETABLE");
        }
    }

    /** A server that ended in between would leave a manifest waiting for somebody, which nobody was told of. */
    @Test
    void aManifestThatWaitsForNobodyIsNeverSeenToWait() {
        try (TestServer server = TestServer.start()) {
            TestUser editor = server.user("EDITOR");
            TestRoute shop = new TestRoute(server, editor);
            server.warehouse().customers(3);
            long route = shop.add(editor, "Recipients", daily());
            server.cluster().run(server.database(), """
                    create table seen (state text, written bigint);
                    create function see() returns trigger language plpgsql security definer as
                      'begin insert into seen values (new.state, txid_current()); return new; end';
                    create trigger see after update on run for each row when (old.state <> new.state) execute function see();
                    """);
            server.clock().forward(Duration.ofDays(1));
            TestUser again = server.user("EDITOR");
            Awaited.until("it is sent", () -> runs(again, route)
                    .valueStream()
                    .anyMatch(run -> run.get("state").asString().equals("SENT")));
            assertThat(
                            server.cluster()
                                    .text(
                                            server.database(),
                                            "select string_agg(states, ' then ' order by written) from"
                                                    + " (select written, string_agg(state, ' and ') as states from seen group by written) t"))
                    .isEqualTo("READY and SENDING then SENT");
        }
    }

    @Test
    void noneDoesWhereDeparturesAreOffUnlessItIsAsked() {
        try (TestServer server = TestServer.start(Map.of("remitto.departures", false))) {
            TestUser editor = server.user("EDITOR");
            TestRoute shop = new TestRoute(server, editor);
            long route = shop.add(editor, "Recipients", daily());
            server.clock().forward(Duration.ofDays(1));
            String looked =
                    "select coalesce(max(version), 0) from scheduled_tasks where task_name = '" + Departures.TASK + "'";
            long before = Long.parseLong(server.cluster().text(server.database(), looked));
            // Twice, so that one whole look began after the clock was moved.
            Awaited.until(
                    "the timetable is looked at twice",
                    () -> Long.parseLong(server.cluster().text(server.database(), looked)) >= before + 4);
            TestUser again = server.user("EDITOR");
            assertThat(runs(again, route)).isEmpty();
            server.bean(Departures.class).departDue();
            assertThat(runs(again, route)).hasSize(1);
        }
    }
}
