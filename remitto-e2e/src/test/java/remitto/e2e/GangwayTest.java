package remitto.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import java.net.URI;
import java.util.Map;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import remitto.demo.history.Desk;
import remitto.demo.history.SupportRoute;
import tools.jackson.databind.JsonNode;

/** A tool reached by its profile alone: everything the engine does works there with no Java written for it. */
class GangwayTest extends RouteRunsFixture {
    private Desk desk;
    private long route;

    GangwayTest() {
        super(150);
    }

    @BeforeEach
    void connect() {
        String address = address(stack.gangway.port());
        desk = new Desk(URI.create(address));
        desk.limit(false);
        route = new SupportRoute(editor, scenario).setUp(ids, address);
    }

    private String users() {
        return desk.get("/");
    }

    @Test
    void recordsAreAddedChangedTakenAwayAndPutBack() {
        JsonNode first = run(route);
        long added = sum(first, "added");
        assertThat(added).isGreaterThan(30);
        assertThat(outcome(first, "ACKNOWLEDGED")).isEqualTo(added);
        assertThat(users()).contains("<span class=quiet>" + added + "</span>");
        assertThat(prepare(route).get("message").asString()).isEqualTo("Nothing to send");

        String key = lines(first, "&verdict=ADDED").get(0).get("key").asString();
        stack.change("update ferry.pass_holders set given_name = 'Runa Test' where pass_number = '" + key + "'");
        JsonNode changed = run(route);
        assertThat(sum(changed, "changed")).isEqualTo(1);
        assertThat(users()).contains("Runa Test");

        stack.change("delete from ferry.pass_holders where pass_number = '" + key + "'");
        JsonNode removed = approved(run(route));
        assertThat(sum(removed, "removed")).isEqualTo(1);
        assertThat(users()).doesNotContain("Runa Test");
        JsonNode undo =
                editor.await(editor.post("/api/runs/" + removed.get("id").asLong() + "/undo", Map.of())
                        .get("runId")
                        .asLong());
        send(undo);
        assertThat(users()).contains("Runa Test");
    }

    @Test
    void aLostAnswerIsReadBackAndARefusedRowIsHeldAlone() {
        desk.faults("[{\"fault\":\"drop-after\",\"on\":\"fresh\",\"next\":1},"
                + "{\"fault\":\"server-error\",\"on\":\"seek\",\"next\":1}]");
        JsonNode first = run(route);
        assertThat(outcome(first, "ACKNOWLEDGED")).isEqualTo(sum(first, "added"));
        assertThat(users()).contains("<span class=quiet>" + sum(first, "added") + "</span>");

        stack.change("update ferry.pass_holders set given_name = repeat('x', 80) where pass_number = '"
                + lines(first, "&verdict=ADDED").get(0).get("key").asString() + "'");
        JsonNode held = prepare(route);
        assertThat(lines(held, "&verdict=HELD").get(0).get("reason").asString())
                .contains("is 80 characters; it takes 60");
    }

    @Test
    void aMessageShowsThatTheValuesCanBeUsed() {
        JsonNode first = run(route);
        String key = lines(first, "&verdict=ADDED").get(0).get("key").asString();
        String shown = desk.get(
                "/message?handle=" + key + "&text=Company+%7B%7Bcompany_no%7Cnone%7D%7D+of+%7B%7Bhandle%7D%7D");
        assertThat(shown).contains(">Company none of " + key + "<");
        assertThat(desk.get("/message?handle=nobody&text=Hello")).contains("There is no such user.");
    }
}
