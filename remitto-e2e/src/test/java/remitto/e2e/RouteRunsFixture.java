package remitto.e2e;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import remitto.core.guard.Guards;
import remitto.core.route.RouteSpec;
import remitto.demo.history.Api;
import remitto.demo.history.Scenario;
import tools.jackson.databind.JsonNode;

/** A stack with the scenario's routes, and what tests do with their runs. */
abstract class RouteRunsFixture {
    private static final Map<Integer, World<Scenario.Ids>> WORLDS = new ConcurrentHashMap<>();

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
        ids = begin(WORLDS.computeIfAbsent(people, RouteRunsFixture::world));
    }

    private static World<Scenario.Ids> world(int people) {
        return new World<>(people, Optional.empty(), RouteRunsFixture::routes);
    }

    static Scenario.Ids routes(Stack stack) {
        return new Scenario(stack.user("EDITOR")).setUp(stack.places());
    }

    final <T> T begin(World<T> world) throws Exception {
        World.Begun<T> begun = world.begin();
        stack = begun.stack();
        editor = stack.user("EDITOR");
        scenario = new Scenario(editor);
        return begun.known();
    }

    @AfterEach
    void stop() throws Exception {
        stack.close();
    }

    final JsonNode prepare(long route) {
        return editor.await(editor.post("/api/routes/" + route + "/runs", Map.of())
                .get("runId")
                .asLong());
    }

    final JsonNode send(JsonNode prepared) {
        long id = prepared.get("id").asLong();
        if (prepared.get("state").asString().equals("READY")) {
            editor.post("/api/runs/" + id + "/send", Map.of());
        }
        return editor.await(id);
    }

    static long sum(JsonNode run, String name) {
        return run.get("counts").get(name).asLong();
    }

    final List<JsonNode> lines(JsonNode run, String query) {
        List<JsonNode> lines = new ArrayList<>();
        editor.get("/api/runs/" + run.get("id").asLong() + "/lines?limit=500" + query)
                .get("lines")
                .forEach(lines::add);
        return lines;
    }

    final JsonNode run(long route) {
        return send(prepare(route));
    }

    /** A guard that stopped a run in so small a world is let pass by an approver. */
    final JsonNode approved(JsonNode run) {
        long id = run.get("id").asLong();
        if (run.get("state").asString().equals("AWAITING_APPROVAL")) {
            stack.user("APPROVER")
                    .post("/api/runs/" + id + "/approve", Map.of("verdicts", List.of(), "without", List.of()));
        }
        return editor.await(id);
    }

    static long outcome(JsonNode run, String state) {
        return run.get("outcomes").path(state).asLong(0);
    }

    /** Saved by the editor; put in service by an administrator, since a small world has looser guards. */
    final void putInService(long route, RouteSpec spec) {
        JsonNode now = editor.get("/api/routes/" + route);
        int latest = now.get("latestVersion").asInt();
        editor.post(
                "/api/routes/" + route + "/versions",
                Map.of("name", now.get("name").asString(), "basedOn", latest, "note", "", "spec", spec));
        stack.admin().post("/api/routes/" + route + "/in-service", Map.of("version", latest + 1));
    }

    /** From now on, Purser takes five records a call, so that what lasts several calls can be watched. */
    final void smallerCalls() {
        profile("records_per_call: 250", "records_per_call: 5");
    }

    /** Puts a version of Purser's profile in service that says something else. */
    final void profile(String says, String wanted) {
        JsonNode now = editor.get("/api/profiles/purser-crm");
        int latest = now.get("latestVersion").asInt();
        String text = now.get("text").asString();
        if (!text.contains(says)) {
            throw new IllegalArgumentException("the profile does not say " + says);
        }
        editor.post(
                "/api/profiles/purser-crm/versions",
                Map.of("basedOn", latest, "note", "for a test", "text", text.replace(says, wanted)));
        editor.post("/api/profiles/purser-crm/in-service", Map.of("version", latest + 1));
    }

    static RouteSpec passes() {
        return Scenario.commuterPasses().guards(Guards.none());
    }

    final Map<String, String> there(String object, String key, String field) {
        return new WriteLog(stack.folder).finalValues(object, key, field);
    }

    final Set<String> contacts() {
        return new HashSet<>(new WriteLog(stack.folder).present("contact", "external_ref"));
    }

    final RouteSpec editorSpec(long route) {
        return editor.read("/api/routes/" + route, "spec", RouteSpec.class);
    }

    static String address(int port) {
        return "http://127.0.0.1:" + port;
    }

    /** Counts what Purser really holds of an object. */
    final JsonNode takeStock(String object) {
        return takeStock(object, false);
    }

    /** @param changesOnly reads what changed since the last one */
    final JsonNode takeStock(String object, boolean changesOnly) {
        long id = editor.post(
                        "/api/destinations/" + ids.purser() + "/objects/" + object + "/stocktakes?changesOnly="
                                + changesOnly,
                        Map.of())
                .get("id")
                .asLong();
        JsonNode stocktake;
        do {
            stocktake = editor.get("/api/stocktakes/" + id);
        } while (stocktake.get("state").asString().equals("COUNTING"));
        return stocktake;
    }
}
