package remitto.server.explain;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import remitto.core.guard.Guards;
import remitto.core.route.Basis;
import remitto.core.route.FirstRun;
import remitto.core.route.Mode;
import remitto.core.route.RouteSpec;
import remitto.core.timetable.Schedule;
import remitto.server.harness.TestRoute;
import remitto.server.harness.TestServer;
import remitto.server.harness.TestUser;
import tools.jackson.databind.JsonNode;

/** Who wrote a value stays its writer when another route meets the record and would write the same. */
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class AdoptedValueTest {
    private TestServer server;
    private TestUser editor;
    private TestRoute route;

    @BeforeAll
    void twoRoutesIntoTheSameRecordsOneOfWhichWasThereBefore() {
        server = TestServer.start();
        editor = server.user("EDITOR", "asker");
        route = new TestRoute(server, editor);
        server.warehouse()
                .run(
                        "insert into mail.recipients (id, town, email) select id, town, email from shop.customers where id = 3");
        route.run(route.add(editor, "First", adding()));
        route.run(route.add(editor, "Second", adding()));
    }

    @AfterAll
    void stop() {
        server.close();
    }

    private static RouteSpec adding() {
        return RouteSpec.of(
                        Mode.ADD_OR_UPDATE,
                        List.of("id"),
                        TestRoute.spec(Optional.empty()).rules(),
                        new Basis.NotStated(),
                        Guards.none(),
                        new Schedule.ByHand("UTC"))
                .firstRun(FirstRun.AlreadyThere.ADOPT, FirstRun.OlderRows.SEND);
    }

    private JsonNode why(int record) {
        return editor.get("/api/explain?destinationId=" + route.destination() + "&object=recipients&remoteId=" + record
                        + "&field=town")
                .ok();
    }

    @Test
    void theRouteThatWroteAValueStaysItsWriter() {
        JsonNode why = why(7);
        assertThat(why.get("made").get("route").asString()).isEqualTo("First");
        assertThat(why.has("adopted")).isFalse();
        assertThat(why.get("fields").valueStream().map(one -> one.get("writer").asString()))
                .containsOnly("First");
    }

    @Test
    void aValueThatWasThereBeforeSaysWhichRouteFoundIt() {
        JsonNode why = why(3);
        assertThat(why.has("made")).isFalse();
        JsonNode adopted = why.get("adopted");
        assertThat(adopted.get("route").asString()).isEqualTo("First");
        assertThat(adopted.get("key").asString()).isEqualTo("3");
        assertThat(why.get("now").get("field").get("outcome").asString()).isEqualTo("SAME");
        assertThat(Map.of("sentence", why.get("now").get("sentence").asString()))
                .hasEntrySatisfying("sentence", words -> assertThat(words).contains("town"));
    }
}
