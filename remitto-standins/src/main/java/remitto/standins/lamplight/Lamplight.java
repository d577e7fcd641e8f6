package remitto.standins.lamplight;

import io.javalin.Javalin;
import io.javalin.config.RoutesConfig;
import io.javalin.http.Context;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Duration;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;
import remitto.standins.fault.FaultPanel;
import remitto.standins.fault.FrontDesk;
import remitto.standins.fault.Gate;
import remitto.standins.page.Html;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.ObjectMapper;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ObjectNode;

/** Lamplight Ads, running on a loopback port: match lists of hashed addresses, filled and emptied by jobs. */
public final class Lamplight implements AutoCloseable {
    /** The key the demo signs in with. */
    public static final String KEY = "lamp-4410-halvorn";

    /** Its key never expires. */
    private static final List<String> FAULTS = FaultPanel.KINDS.stream()
            .filter(kind -> !kind.equals("expired-token"))
            .toList();

    private static final int BATCH = 500;
    private static final int CALLS = 60;
    private static final Duration WINDOW = Duration.ofSeconds(6);
    private static final int ASKED_UNTIL_DONE = 2;
    private static final long LARGEST_BODY = 1_000_000L;
    private static final Map<String, String> LISTS = lists();

    private final Javalin app;
    private final LampStore store;
    private final ObjectMapper json;
    private final Clock clock;
    private final Gate gate;
    private final LampFrame frame = new LampFrame();
    private final Map<String, Integer> asked = new ConcurrentHashMap<>();

    private Lamplight(int port, Path data) {
        json = JsonMapper.builder().build();
        store = new LampStore(data, List.copyOf(LISTS.keySet()), json);
        FrontDesk desk = new FrontDesk(FAULTS, CALLS, WINDOW, frame, json);
        clock = desk.clock();
        gate = desk.gate();
        app = desk.open(port, LARGEST_BODY, this::mount);
    }

    private static Map<String, String> lists() {
        Map<String, String> lists = new LinkedHashMap<>();
        lists.put("lapsed-islanders", "Lapsed islanders");
        lists.put("commuters", "Commuters");
        lists.put("summer-2026", "Summer 2026");
        return lists;
    }

    /**
     * @param port 0 for any free one
     * @param data the file that holds its data across restarts
     */
    public static Lamplight start(int port, Path data) {
        return new Lamplight(port, data);
    }

    public int port() {
        return app.port();
    }

    private void mount(RoutesConfig routes) {
        routes.get("/", context -> context.html(page()));
        routes.get("/ads/me", context -> guarded(context, through -> me(context)));
        routes.get("/ads/lists", context -> guarded(context, through -> lists(context)));
        routes.post(
                "/ads/lists/{list}/jobs", context -> guarded(context, through -> submit(context, through.partial())));
        routes.get("/ads/jobs/{job}", context -> guarded(context, through -> job(context)));
        routes.get(
                "/control/lists/{list}",
                context -> answer(context, 200, json.valueToTree(store.members(context.pathParam("list")))));
        routes.get("/control/jobs", context -> answer(context, 200, json.valueToTree(store.jobs())));
        routes.delete("/control/data", context -> {
            store.clear();
            context.status(204);
        });
    }

    private void guarded(Context context, Gate.Handler handler) {
        gate.pass(
                context,
                () -> KEY.equals(context.header("X-Lamp-Key")) ? Optional.of("halvorn") : Optional.empty(),
                "why",
                () -> {},
                handler);
    }

    private void me(Context context) {
        answer(
                context,
                200,
                json.createObjectNode().put("account", "Halvorn Ferries").put("currency", "NOK"));
    }

    private void lists(Context context) {
        ObjectNode body = json.createObjectNode();
        var list = body.putArray("lists");
        LISTS.forEach((id, name) -> list.addObject()
                .put("id", id)
                .put("name", name)
                .put("people", true)
                .put("match_list", true)
                .put("members", store.size(id))
                .put("smallest", 100));
        answer(context, 200, body);
    }

    private void submit(Context context, boolean partial) {
        String list = context.pathParam("list");
        if (!store.has(list)) {
            throw new Gate.Refusal(404, "no list " + list);
        }
        JsonNode body = json.readTree(context.bodyAsBytes());
        String action = body.path("do").asString("");
        if (!action.equals("add") && !action.equals("remove")) {
            throw new Gate.Refusal(400, "do is add or remove");
        }
        List<String> hashes = new ArrayList<>();
        body.path("members").forEach(member -> hashes.add(member.path("hash").asString("")));
        if (hashes.size() > BATCH) {
            throw new Gate.Refusal(413, "at most " + BATCH + " members at a time, not " + hashes.size());
        }
        String key = Optional.ofNullable(context.header("Once-Key")).orElse("");
        LampStore.Job job = store.submit(list, action, hashes, key, clock.instant(), partial);
        answer(context, 202, json.createObjectNode().put("job", job.id()).put("state", "queued"));
    }

    private void job(Context context) {
        LampStore.Job job = store.job(context.pathParam("job"))
                .orElseThrow(() -> new Gate.Refusal(404, "no job " + context.pathParam("job")));
        int times = asked.merge(job.id(), 1, Integer::sum);
        ObjectNode body = json.createObjectNode();
        body.put("job", job.id()).put("state", times < ASKED_UNTIL_DONE ? "working" : "done");
        if (times >= ASKED_UNTIL_DONE) {
            body.put("taken", job.size() - job.refusals().size());
            var results = body.putArray("results");
            for (int i = 0; i < job.size(); i++) {
                ObjectNode one = results.addObject().put("position", i);
                String refusal = job.refusals().getOrDefault(i, "");
                one.put("outcome", refusal.isEmpty() ? job.action().equals("add") ? "on" : "off" : "refused");
                var problems = one.putArray("problems");
                if (!refusal.isEmpty()) {
                    problems.addObject().put("message", refusal);
                }
            }
        }
        answer(context, 200, body);
    }

    private void answer(Context context, int status, JsonNode body) {
        context.status(status).contentType("application/json").result(json.writeValueAsBytes(body));
    }

    private String page() {
        StringBuilder out = new StringBuilder(
                "<h1>Match lists</h1><table><tr><th>Match list</th><th>Members</th><th>Smallest that is shown</th></tr>");
        LISTS.forEach((id, name) -> out.append(
                "<tr><td>%s</td><td class=num>%,d</td><td class=num>100</td></tr>".formatted(name, store.size(id))));
        out.append("</table><h1>Latest jobs</h1><table><tr><th>Job</th><th>List</th><th>Does</th><th>Members</th>"
                + "<th>Refused</th><th>At</th></tr>");
        List<LampStore.Job> jobs = new ArrayList<>(store.jobs());
        java.util.Collections.reverse(jobs);
        jobs.stream()
                .limit(50)
                .forEach(job -> out.append(
                        "<tr><td>%s</td><td>%s</td><td>%s</td><td class=num>%d</td><td class=num>%d</td><td>%s</td></tr>"
                                .formatted(
                                        job.id(),
                                        LISTS.get(job.list()),
                                        job.action(),
                                        job.size(),
                                        job.refusals().size(),
                                        Html.time(job.at()))));
        return frame.page("Lists", out.append("</table>").toString());
    }

    @Override
    public void close() {
        app.stop();
        store.close();
    }
}
