package remitto.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.TreeMap;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import remitto.core.guard.Guards;
import remitto.core.route.Leavers;
import remitto.core.route.RouteSpec;
import remitto.demo.history.Api;
import remitto.demo.history.Scenario;
import tools.jackson.databind.JsonNode;

/**
 * Random sequences of source changes, edits in the destination, faults, pauses, undo and kills of the server, against
 * a model of a few lines: the destination ends where the model says.
 */
class ModelTest {
    private static final int STEPS = 14;
    /** A server takes seconds to start. */
    private static final int KILLS = 2;

    private static final List<String> NAMES = List.of("Aino", "Birk", "Cecilia", "Dag");

    private Stack stack;
    private Api admin;
    private long route;
    private int kills;

    /** What the source holds, by key: the given name. */
    private final Map<String, String> source = new TreeMap<>();
    /** What the destination must hold in the end. */
    private final Map<String, String> expected = new TreeMap<>();

    @BeforeEach
    void start() throws Exception {
        stack = Stack.start(60);
        stack.change("delete from ferry.pass_holders");
        admin = stack.admin();
        route = new Scenario(api()).setUp(stack.places()).passes();
        RouteSpec spec = Scenario.commuterPasses().guards(Guards.none()).leavers(new Leavers.Delete());
        api().post(
                        "/api/routes/" + route + "/versions",
                        Map.of("name", "Commuter passes", "basedOn", 1, "note", "", "spec", spec));
        // Looser guards are put in service by somebody who did not write them.
        stack.user("APPROVER").post("/api/routes/" + route + "/in-service", Map.of("version", 2));
    }

    @AfterEach
    void stop() throws Exception {
        stack.close();
    }

    private Api api() {
        return admin;
    }

    @ParameterizedTest
    @ValueSource(longs = {1, 2, 3, 4, 5, 6})
    void theDestinationEndsWhereTheModelSays(long seed) {
        Random random = new Random(seed);
        StringBuilder story = new StringBuilder();
        for (int step = 0; step < STEPS; step++) {
            story.append(step(random)).append("; ");
        }
        stack.desk.faults("[]");
        run();
        run();
        assertThat(there()).as("seed %d: %s", seed, story).isEqualTo(expected);
        assertThat(api().get("/api/runs?routeId=" + route)
                        .get("runs")
                        .get(0)
                        .get("message")
                        .asString())
                .isEqualTo("Nothing to send");
    }

    private String step(Random random) {
        return switch (random.nextInt(9)) {
            case 0, 1 -> add(random);
            case 2 -> rename(random);
            case 3 -> leave(random);
            case 4 -> editThere(random);
            case 5 -> faults(random);
            case 6 -> undo();
            case 7 -> kill(random);
            default -> random.nextBoolean() ? run() : comesAndGoes();
        };
    }

    private String add(Random random) {
        String key = "M-" + random.nextInt(12);
        if (source.containsKey(key)) {
            return rename(random);
        }
        String name = NAMES.get(random.nextInt(NAMES.size()));
        stack.change("insert into ferry.pass_holders (pass_number, given_name, family_name, email, country, status,"
                + " mail_consent, updated_at) values ('" + key + "', '" + name + "', 'Berg', lower('" + key
                + "') || '@kai.example', 'NO', 'active', 'yes', timestamptz '2026-11-20')");
        source.put(key, name);
        run();
        expected.put(key, name);
        return "add " + key + " " + name;
    }

    private String rename(Random random) {
        Optional<String> key = any(random);
        if (key.isEmpty()) {
            return "nothing";
        }
        String name = NAMES.get(random.nextInt(NAMES.size())) + random.nextInt(100);
        if (name.equals(source.get(key.get()))) {
            return "nothing";
        }
        stack.change(
                "update ferry.pass_holders set given_name = '" + name + "' where pass_number = '" + key.get() + "'");
        source.put(key.get(), name);
        run();
        expected.put(key.get(), name);
        return "rename " + key.get() + " " + name;
    }

    private String leave(Random random) {
        Optional<String> key = any(random);
        if (key.isEmpty()) {
            return "nothing";
        }
        stack.change("delete from ferry.pass_holders where pass_number = '" + key.get() + "'");
        source.remove(key.get());
        run();
        expected.remove(key.get());
        return "leave " + key.get();
    }

    /** An edit stays until the source value changes: an unchanged row is not looked at there. */
    private String editThere(Random random) {
        Optional<String> key = any(random).filter(there()::containsKey);
        if (key.isEmpty()) {
            return "nothing";
        }
        String name = "Edited" + random.nextInt(100);
        stack.desk
                .find("contact", key.get())
                .ifPresent(id -> stack.desk.edit("contact", id, Map.of("given_name", name)));
        expected.put(key.get(), name);
        return "edit " + key.get() + " " + name;
    }

    private String faults(Random random) {
        String kind = List.of("server-error", "drop-before", "drop-after", "not-json", "too-many", "expired-token")
                .get(random.nextInt(6));
        stack.desk.faults("[{\"fault\":\"" + kind + "\",\"on\":\"batch\",\"next\":1}]");
        return kind;
    }

    /** Undone is what the last manifest wrote and nobody changed since. */
    private String undo() {
        JsonNode last = api().get("/api/runs?routeId=" + route).get("runs").path(0);
        if (!last.path("state").asString("").equals("SENT")
                || last.path("sentAt").isMissingNode()
                || last.get("trigger").asString().equals("UNDO")
                || last.get("counts").get("changed").asLong() != 1) {
            return "nothing";
        }
        long id = last.get("id").asLong();
        JsonNode line = api().get("/api/runs/" + id + "/lines?verdict=CHANGED")
                .get("lines")
                .path(0);
        String key = line.path("key").asString("");
        String now = there().getOrDefault(key, "");
        JsonNode name = null;
        for (JsonNode field : line.path("fields")) {
            name = field.get("field").asString().equals("given_name") ? field : name;
        }
        JsonNode undo = api().await(api().post("/api/runs/" + id + "/undo", Map.of())
                .get("runId")
                .asLong());
        if (undo.get("state").asString().equals("READY")) {
            api().post("/api/runs/" + undo.get("id").asLong() + "/send", Map.of());
            api().await(undo.get("id").asLong());
        }
        if (name != null && name.get("fresh").asString().equals(now)) {
            expected.put(key, name.get("old").asString());
        }
        return "undo of " + key;
    }

    /** The server is killed while a change of every record is prepared or sent, and another takes the run over. */
    private String kill(Random random) {
        if (source.isEmpty() || kills++ == KILLS) {
            return "nothing";
        }
        String name = NAMES.get(random.nextInt(NAMES.size())) + random.nextInt(100);
        stack.change("update ferry.pass_holders set given_name = '" + name + "'");
        source.replaceAll((key, before) -> name);
        boolean whileSending = random.nextBoolean();
        stack.desk.faults("[{\"fault\":\"latency\",\"on\":\"" + (whileSending ? "batch" : "find")
                + "\",\"share\":1,\"millis\":" + random.nextInt(150) + "}]");
        long id = api().post("/api/routes/" + route + "/runs", Map.of())
                .get("runId")
                .asLong();
        if (whileSending && api().await(id).get("state").asString().equals("READY")) {
            api().post("/api/runs/" + id + "/send", Map.of());
        }
        stack.killServer();
        admin = stack.admin();
        stack.desk.faults("[]");
        api().await(id);
        run();
        source.forEach(expected::put);
        return "killed while " + (whileSending ? "sending" : "preparing");
    }

    /** A manifest that was interrupted is prepared again by itself, perhaps just now; the next is prepared after it. */
    private long preparation() {
        while (true) {
            try {
                return api().post("/api/routes/" + route + "/runs", Map.of())
                        .get("runId")
                        .asLong();
            } catch (Api.Refused underWay) {
                if (underWay.status() != 409) {
                    throw underWay;
                }
                api().awaitAll();
            }
        }
    }

    private String run() {
        while (true) {
            JsonNode prepared = api().await(preparation());
            if (prepared.get("state").asString().equals("READY")) {
                api().post("/api/runs/" + prepared.get("id").asLong() + "/send", Map.of());
                JsonNode sent = api().await(prepared.get("id").asLong());
                assertThat(sent.get("state").asString()).as(sent.toString()).isEqualTo("SENT");
                if (sent.get("outcomes").path("MOVED_ON").asLong(0) > 0) {
                    continue;
                }
            }
            return "run";
        }
    }

    /** A pause and its end, with whatever is kept prepared again. */
    private String comesAndGoes() {
        api().post("/api/routes/" + route + "/pause", Map.of("paused", true));
        api().post("/api/routes/" + route + "/pause", Map.of("paused", false));
        return "pause";
    }

    private Optional<String> any(Random random) {
        List<String> keys = List.copyOf(source.keySet());
        return keys.isEmpty() ? Optional.empty() : Optional.of(keys.get(random.nextInt(keys.size())));
    }

    private Map<String, String> there() {
        Map<String, String> there =
                new TreeMap<>(new WriteLog(stack.folder).finalValues("contact", "external_ref", "given_name"));
        there.keySet().retainAll(new WriteLog(stack.folder).present("contact", "external_ref"));
        return there;
    }
}
