package remitto.standins.gangway;

import io.javalin.Javalin;
import io.javalin.config.RoutesConfig;
import io.javalin.http.Context;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import remitto.standins.fault.FaultPanel;
import remitto.standins.fault.FrontDesk;
import remitto.standins.fault.Gate;
import remitto.standins.fault.OneByOne;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.ObjectMapper;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ArrayNode;
import tools.jackson.databind.node.ObjectNode;

/** Gangway Support, running on a loopback port: users and companies that helpers at a desk write to. */
public final class Gangway implements AutoCloseable {
    /** The pass the demo signs in with. */
    public static final String PASS = "gang-3301-halvorn";

    /** Its pass never expires. */
    private static final List<String> FAULTS = FaultPanel.KINDS.stream()
            .filter(kind -> !kind.equals("expired-token"))
            .toList();

    private static final int BATCH = 100;
    private static final OneByOne ROWS = new OneByOne("told", "at", BATCH, "said");
    private static final int CALLS = 50;
    private static final Duration WINDOW = Duration.ofSeconds(5);
    private static final long LARGEST_BODY = 1_000_000L;

    private final Javalin app;
    private final GangStore store;
    private final ObjectMapper json;
    private final FrontDesk desk;
    private final Gate gate;

    private Gangway(int port, Path data) {
        json = JsonMapper.builder().build();
        store = new GangStore(data, json);
        GangFrame frame = new GangFrame();
        desk = new FrontDesk(FAULTS, CALLS, WINDOW, frame, json, data);
        gate = desk.gate();
        app = desk.open(port, LARGEST_BODY, routes -> {
            mount(routes);
            new GangPages(store, frame).mount(routes);
        });
    }

    /**
     * @param port 0 for any free one
     * @param data the file that holds its data across restarts
     */
    public static Gangway start(int port, Path data) {
        return new Gangway(port, data);
    }

    public int port() {
        return app.port();
    }

    private void mount(RoutesConfig routes) {
        routes.get(
                "/g/desk",
                context -> guarded(
                        context,
                        through -> answer(context, json.createObjectNode().put("desk", "Halvorn helpers"))));
        routes.get("/g/{object}/slots", context -> guarded(context, through -> slots(context)));
        routes.post("/g/{object}/seek", context -> guarded(context, through -> seek(context)));
        routes.get("/g/{object}/all", context -> guarded(context, through -> all(context)));
        routes.post(
                "/g/{object}/fresh",
                context -> guarded(context, ROWS.lines("rows"), through -> rows(context, through, this::fresh)));
        routes.patch(
                "/g/{object}/known",
                context -> guarded(context, ROWS.lines("rows"), through -> rows(context, through, this::known)));
        routes.post(
                "/g/{object}/drop",
                context -> guarded(context, ROWS.lines("rows"), through -> rows(context, through, this::drop)));
        routes.delete("/control/data", context -> {
            store.clear();
            context.status(204);
        });
    }

    private void guarded(Context context, Gate.Handler handler) {
        guarded(context, Gate.NONE, handler);
    }

    private void guarded(Context context, Gate.Lines lines, Gate.Handler handler) {
        gate.pass(
                context,
                () -> PASS.equals(context.header("Gangway-Pass")) ? Optional.of("halvorn") : Optional.empty(),
                "trouble",
                () -> {},
                lines,
                handler);
    }

    private String object(Context context) {
        String object = context.pathParam("object");
        if (!store.has(object)) {
            throw new Gate.Refusal(404, "there is no " + object + " here");
        }
        return object;
    }

    private void slots(Context context) {
        answer(context, json.createObjectNode().set("slots", json.valueToTree(store.slots(object(context)))));
    }

    private void seek(Context context) {
        String object = object(context);
        JsonNode body = json.readTree(context.bodyAsBytes());
        String slot = body.path("slot").asString("");
        ObjectNode answer = json.createObjectNode();
        ArrayNode hits = answer.putArray("hits");
        body.path("any").forEach(value -> store.seek(object, slot, value)
                .forEach(no -> store.row(object, no).ifPresent(row -> hit(hits, no, row))));
        answer(context, answer);
    }

    /** A page at a time; a Link header names the next one (RFC 8288). */
    private void all(Context context) {
        String object = object(context);
        int after = Integer.parseInt(Optional.ofNullable(context.queryParam("after"))
                .filter(text -> !text.isEmpty())
                .orElse("0"));
        ObjectNode answer = json.createObjectNode();
        ArrayNode hits = answer.putArray("hits");
        int last = 0;
        for (Map.Entry<Integer, ObjectNode> entry : store.rows(object).entrySet()) {
            if (entry.getKey() > after && hits.size() < BATCH) {
                hit(hits, entry.getKey(), entry.getValue());
                last = entry.getKey();
            }
        }
        if (hits.size() == BATCH) {
            context.header("Link", "</g/" + object + "/all?after=" + last + ">; rel=\"next\"");
        }
        answer(context, answer);
    }

    private static void hit(ArrayNode hits, int no, ObjectNode row) {
        hits.addObject().put("no", Integer.toString(no)).set("slots", row);
    }

    private interface OneRow {
        void take(String object, JsonNode row, ObjectNode told);
    }

    private void rows(Context context, Gate.Through through, OneRow how) {
        String object = object(context);
        answer(
                context,
                ROWS.answer(
                        json,
                        json.readTree(context.bodyAsBytes()).path("rows"),
                        through,
                        (row, told) -> how.take(object, row, told),
                        (row, told) -> bad(told, List.of("the gangway was up"))));
    }

    private void fresh(String object, JsonNode row, ObjectNode told) {
        JsonNode values = row.path("slots");
        List<String> faults = faults(object, values, 0);
        for (Slot slot : store.slots(object)) {
            if (slot.must()
                    && (!values.has(slot.slot()) || values.get(slot.slot()).isNull())) {
                faults.add(slot.label() + " is missing");
            }
        }
        if (faults.stream().anyMatch(fault -> fault.endsWith("is taken"))) {
            told.put("said", "clash");
        } else if (!faults.isEmpty()) {
            bad(told, faults);
        } else {
            told.put("said", "made").put("no", Integer.toString(store.add(object, values)));
        }
    }

    private void known(String object, JsonNode row, ObjectNode told) {
        int no = row.path("no").asInt(Integer.parseInt("0" + row.path("no").asString("")));
        if (store.row(object, no).isEmpty()) {
            told.put("said", "gone");
            return;
        }
        List<String> faults = faults(object, row.path("slots"), no);
        if (faults.isEmpty()) {
            store.change(object, no, row.path("slots"));
            told.put("said", "kept").put("no", Integer.toString(no));
        } else {
            bad(told, faults);
        }
    }

    private void drop(String object, JsonNode row, ObjectNode told) {
        int no = Integer.parseInt("0" + row.asString(""));
        told.put("no", Integer.toString(no)).put("said", store.row(object, no).isEmpty() ? "gone" : "dropped");
        store.drop(object, no);
    }

    /** @param self the row that is changed, whose own values are not in its way; 0 for a new one */
    private List<String> faults(String object, JsonNode values, int self) {
        List<String> faults = new ArrayList<>();
        values.properties().forEach(entry -> {
            Optional<Slot> slot = store.slots(object).stream()
                    .filter(one -> one.slot().equals(entry.getKey()))
                    .findFirst();
            if (slot.isEmpty()) {
                faults.add("there is no slot " + entry.getKey());
                return;
            }
            slot.get().fault(entry.getValue()).ifPresent(faults::add);
            boolean taken = slot.get().onlyOne()
                    && !entry.getValue().isNull()
                    && store.seek(object, entry.getKey(), entry.getValue()).stream()
                            .anyMatch(no -> no != self);
            if (taken) {
                faults.add(slot.get().label() + " is taken");
            }
        });
        return faults;
    }

    private static void bad(ObjectNode told, List<String> faults) {
        ArrayNode list = told.put("said", "bad").putArray("faults");
        faults.forEach(fault -> list.addObject().put("text", fault));
    }

    private void answer(Context context, JsonNode body) {
        context.contentType("application/json").result(json.writeValueAsBytes(body));
    }

    @Override
    public void close() {
        app.stop();
        store.close();
        desk.close();
    }
}
