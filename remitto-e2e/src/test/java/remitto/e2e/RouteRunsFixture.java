package remitto.e2e;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import remitto.demo.history.Api;
import remitto.demo.history.Scenario;
import tools.jackson.databind.JsonNode;

/** A stack with the scenario's routes, and what tests do with their runs. */
abstract class RouteRunsFixture {
    private final int people;
    Stack stack;
    Api editor;
    Scenario scenario;
    Scenario.Ids ids;

    /** @param people of the made-up company */
    RouteRunsFixture(int people) {
        this.people = people;
    }

    @BeforeEach
    void start() throws Exception {
        stack = Stack.start(people);
        editor = stack.user("EDITOR");
        scenario = new Scenario(editor);
        ids = scenario.setUp(stack.places());
    }

    @AfterEach
    void stop() throws Exception {
        stack.close();
    }

    final JsonNode draw(long route) {
        return editor.await(editor.post("/api/routes/" + route + "/runs", Map.of())
                .get("runId")
                .asLong());
    }

    final JsonNode send(JsonNode drawn) {
        long id = drawn.get("id").asLong();
        if (drawn.get("state").asString().equals("DRAWN")) {
            editor.post("/api/runs/" + id + "/send", Map.of());
        }
        return editor.await(id);
    }

    static long sum(JsonNode run, String name) {
        return run.get("sums").get(name).asLong();
    }

    final List<JsonNode> lines(JsonNode run, String query) {
        List<JsonNode> lines = new ArrayList<>();
        editor.get("/api/runs/" + run.get("id").asLong() + "/lines?limit=500" + query)
                .get("lines")
                .forEach(lines::add);
        return lines;
    }
}
