package remitto.standins.lamplight;

import io.javalin.Javalin;
import io.javalin.config.RoutesConfig;
import io.javalin.http.Context;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.concurrent.ConcurrentHashMap;
import remitto.standins.fault.FaultPanel;
import remitto.standins.fault.FrontDesk;
import remitto.standins.fault.Gate;
import remitto.standins.fault.Testimony;
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
    private static final List<MatchList> LISTS = List.of(
            new MatchList("HAL-1", "lapsed-islanders", "Lapsed islanders"),
            new MatchList("HAL-1", "commuters", "Commuters"),
            new MatchList("HAL-1", "summer-2026", "Summer 2026"),
            new MatchList("HAL-2", "shippers", "Shippers"));
    private static final Map<String, String> ACCOUNTS =
            new TreeMap<>(Map.of("HAL-1", "Halvorn Ferries", "HAL-2", "Halvorn Freight"));

    private record MatchList(String account, String id, String name) {}

    private final Javalin app;
    private final LampStore store;
    private final ObjectMapper json;
    private final Clock clock;
    private final FrontDesk desk;
    private final Gate gate;
    private final LampFrame frame = new LampFrame();
    private final Map<String, Integer> asked = new ConcurrentHashMap<>();

    private Lamplight(int port, Path data) {
        json = JsonMapper.builder().build();
        store = new LampStore(data, LISTS.stream().map(MatchList::id).toList(), json);
        desk = new FrontDesk(FAULTS, CALLS, WINDOW, frame, json, data);
        clock = desk.clock();
        gate = desk.gate();
        app = desk.open(port, LARGEST_BODY, this::mount);
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
        routes.get("/ads/accounts", context -> guarded(context, through -> accounts(context)));
        routes.get("/ads/lists", context -> guarded(context, through -> lists(context)));
        routes.post("/ads/lists", context -> guarded(context, through -> make(context)));
        routes.post(
                "/ads/lists/{list}/jobs",
                context -> guarded(context, Lamplight::members, through -> submit(context, through)));
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

    private static List<String> members(JsonNode body) {
        List<String> lines = new ArrayList<>();
        body.path("members")
                .forEach(member -> lines.add(
                        body.path("do").asString("") + " " + member.path("hash").asString("")));
        return lines;
    }

    private void guarded(Context context, Gate.Handler handler) {
        guarded(context, Gate.NONE, handler);
    }

    private void guarded(Context context, Gate.Lines lines, Gate.Handler handler) {
        gate.pass(
                context,
                () -> KEY.equals(context.header("X-Lamp-Key")) ? Optional.of("halvorn") : Optional.empty(),
                "why",
                () -> {},
                lines,
                handler);
    }

    /** The account a call is for: the one it names, or the first. */
    private static String account(Context context) {
        String named = Optional.ofNullable(context.header("Lamp-Account")).orElse("HAL-1");
        if (!ACCOUNTS.containsKey(named)) {
            throw new Gate.Refusal(403, "this key does not reach account " + named);
        }
        return named;
    }

    private void accounts(Context context) {
        ObjectNode body = json.createObjectNode();
        var list = body.putArray("accounts");
        ACCOUNTS.forEach((id, name) -> list.addObject().put("id", id).put("name", name));
        answer(context, 200, body);
    }

    private void me(Context context) {
        answer(
                context,
                200,
                json.createObjectNode()
                        .put("account", ACCOUNTS.get(account(context)))
                        .put("currency", "NOK"));
    }

    private void lists(Context context) {
        ObjectNode body = json.createObjectNode();
        var list = body.putArray("lists");
        String account = account(context);
        all().stream().filter(one -> one.account().equals(account)).forEach(one -> list.addObject()
                .put("id", one.id())
                .put("name", one.name())
                .put("people", true)
                .put("match_list", true)
                .put("members", store.size(one.id()))
                .put("matched", store.matched(one.id()))
                .put("smallest", 100));
        answer(context, 200, body);
    }

    private void submit(Context context, Gate.Through through) {
        String list = context.pathParam("list");
        if (!store.has(list) || !byId(list).account().equals(account(context))) {
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
        boolean known = store.knows(key);
        LampStore.Job job = store.submit(list, action, hashes, key, clock.instant(), through.partial());
        hashes.forEach(hash -> through.told().add(known ? Testimony.KNOWN_KEY : "taken"));
        answer(context, 202, json.createObjectNode().put("job", job.id()).put("state", "queued"));
    }

    private MatchList byId(String id) {
        return all().stream().filter(one -> one.id().equals(id)).findFirst().orElseThrow();
    }

    private List<MatchList> all() {
        List<MatchList> all = new ArrayList<>(LISTS);
        store.made().forEach(made -> all.add(new MatchList(made.account(), made.id(), made.name())));
        return all;
    }

    /** A list by a name that the account has none of yet, to the letter. */
    private void make(Context context) {
        String account = account(context);
        String name = json.readTree(context.bodyAsBytes()).path("name").asString("");
        if (name.isBlank() || !name.equals(name.strip()) || name.length() > 60) {
            throw new Gate.Refusal(
                    422, "a list is called something, without spaces around it, in at most 60 characters");
        }
        if (all().stream()
                .anyMatch(one -> one.account().equals(account) && one.name().equals(name))) {
            throw new Gate.Refusal(409, "there is a list " + name + " already");
        }
        answer(context, 201, json.createObjectNode().put("id", store.make(account, name, clock.instant())));
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
                "<h1>Match lists</h1><table><tr><th>Account</th><th>Match list</th><th>Members</th><th>Matched</th><th>Smallest that is shown</th></tr>");
        all().forEach(one -> out.append(
                "<tr><td>%s</td><td>%s</td><td class=num>%,d</td><td class=num>%,d</td><td class=num>100</td></tr>"
                        .formatted(
                                ACCOUNTS.get(one.account()),
                                Html.escape(one.name()),
                                store.size(one.id()),
                                store.matched(one.id()))));
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
                                        Html.escape(byId(job.list()).name()),
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
        desk.close();
    }
}
