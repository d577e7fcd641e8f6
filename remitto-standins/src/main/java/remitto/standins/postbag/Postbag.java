package remitto.standins.postbag;

import io.javalin.Javalin;
import io.javalin.config.RoutesConfig;
import io.javalin.http.Context;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.HashMap;
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

/** Postbag Mail, running on a loopback port: people with traits, lists of them, and letters to them. */
public final class Postbag implements AutoCloseable {
    /** The key the demo signs in with; it is good in one region only. */
    public static final String KEY = "bag-9027-halvorn";

    public static final String REGION = "north";

    /** Its key never expires. */
    private static final List<String> FAULTS = FaultPanel.KINDS.stream()
            .filter(kind -> !kind.equals("expired-token"))
            .toList();

    private static final int BATCH = 200;
    private static final OneByOne ENTRIES = new OneByOne("receipts", "place", BATCH, "receipt");
    private static final int CALLS = 80;
    private static final Duration WINDOW = Duration.ofSeconds(8);
    private static final long LARGEST_BODY = 1_000_000L;

    private final Javalin app;
    private final PostStore store;
    private final ObjectMapper json;
    private final FrontDesk desk;
    private final Gate gate;

    private Postbag(int port, Path data) {
        json = JsonMapper.builder().build();
        store = new PostStore(data, json);
        PostFrame frame = new PostFrame();
        desk = new FrontDesk(FAULTS, CALLS, WINDOW, frame, json, data);
        gate = desk.gate();
        app = desk.open(port, LARGEST_BODY, routes -> {
            mount(routes);
            new PostPages(store, frame, json).mount(routes);
        });
    }

    /**
     * @param port 0 for any free one
     * @param data the file that holds its data across restarts
     */
    public static Postbag start(int port, Path data) {
        return new Postbag(port, data);
    }

    public int port() {
        return app.port();
    }

    private void mount(RoutesConfig routes) {
        routes.get(
                "/{region}/whose",
                context -> guarded(
                        context,
                        through -> answer(
                                context,
                                json.createObjectNode()
                                        .put("letters_of", "Halvorn Ferries")
                                        .put("region", REGION))));
        routes.get("/{region}/kinds", context -> guarded(context, through -> kinds(context)));
        routes.get("/{region}/{kind}/traits", context -> guarded(context, through -> traits(context)));
        routes.post("/{region}/{kind}/which", context -> guarded(context, through -> which(context)));
        routes.get("/{region}/{kind}/pages/{page}", context -> guarded(context, through -> page(context)));
        routes.post(
                "/{region}/{kind}/add",
                context -> guarded(context, ENTRIES.lines("entries"), through -> entries(context, through, this::add)));
        routes.post(
                "/{region}/{kind}/change",
                context ->
                        guarded(context, ENTRIES.lines("entries"), through -> entries(context, through, this::change)));
        routes.post(
                "/{region}/{kind}/drop",
                context ->
                        guarded(context, ENTRIES.lines("entries"), through -> entries(context, through, this::drop)));
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
                () -> KEY.equals(context.header("Postbag-Key")) ? Optional.of("halvorn") : Optional.empty(),
                "sorry",
                () -> {},
                lines,
                through -> {
                    if (!context.pathParam("region").equals(REGION)) {
                        throw new Gate.Refusal(421, "this key is good in the region " + REGION);
                    }
                    handler.handle(through);
                });
    }

    private String kind(Context context) {
        String kind = context.pathParam("kind");
        if (!kind.equals("person") && !store.lists().containsKey(kind)) {
            throw new Gate.Refusal(404, "there is no " + kind + " here");
        }
        return kind;
    }

    private void kinds(Context context) {
        ObjectNode body = json.createObjectNode();
        ArrayNode kinds = body.putArray("kinds");
        kinds.addObject()
                .put("kind", "person")
                .put("called", "Person")
                .put("of_people", true)
                .put("a_list", false);
        store.lists().keySet().forEach(name -> kinds.addObject()
                .put("kind", name)
                .put("called", "List: " + name)
                .put("of_people", true)
                .put("a_list", true));
        answer(context, body);
    }

    private void traits(Context context) {
        List<Trait> traits = store.traits();
        answer(
                context,
                json.createObjectNode()
                        .set(
                                "traits",
                                json.valueToTree(kind(context).equals("person") ? traits : traits.subList(0, 1))));
    }

    private void which(Context context) {
        String kind = kind(context);
        JsonNode body = json.readTree(context.bodyAsBytes());
        String trait = body.path("trait").asString("");
        ObjectNode answer = json.createObjectNode();
        ArrayNode people = answer.putArray("people");
        body.path("is_one_of").forEach(value -> {
            String text = value.asString("");
            if (!kind.equals("person")) {
                if (store.lists().get(kind).contains(text)) {
                    people.addObject().put("id", text).putObject("traits").put("mail", text);
                }
            } else if (trait.equals("id")) {
                int id = Integer.parseInt("0" + text.replaceAll("\\D", ""));
                store.person(id).ifPresent(person -> person(people, id, person));
            } else if (trait.equals("mail")) {
                store.byMail(text)
                        .ifPresent(id -> person(people, id, store.person(id).orElseThrow()));
            } else {
                store.people().forEach((id, person) -> {
                    if (person.path(trait).asString("").equals(text)) {
                        person(people, id, person);
                    }
                });
            }
        });
        answer(context, answer);
    }

    private static void person(ArrayNode people, int id, ObjectNode person) {
        people.addObject().put("id", Integer.toString(id)).set("traits", person);
    }

    /** Numbered from 1; a page that is not full is the last. */
    private void page(Context context) {
        String kind = kind(context);
        int skip = (Integer.parseInt(context.pathParam("page")) - 1) * BATCH;
        ObjectNode answer = json.createObjectNode();
        ArrayNode people = answer.putArray("people");
        if (kind.equals("person")) {
            store.people().entrySet().stream()
                    .skip(skip)
                    .limit(BATCH)
                    .forEach(entry -> person(people, entry.getKey(), entry.getValue()));
        } else {
            store.lists().get(kind).stream().skip(skip).limit(BATCH).forEach(mail -> people.addObject()
                    .put("id", mail)
                    .putObject("traits")
                    .put("mail", mail));
        }
        answer(context, answer);
    }

    private interface OneEntry {
        void take(String kind, JsonNode entry, ObjectNode told);
    }

    private void entries(Context context, Gate.Through through, OneEntry how) {
        String kind = kind(context);
        answer(
                context,
                ENTRIES.answer(
                        json,
                        json.readTree(context.bodyAsBytes()).path("entries"),
                        through,
                        (entry, told) -> how.take(kind, entry, told),
                        (entry, told) -> sorry(told, List.of("the bag tore"))));
    }

    private void add(String kind, JsonNode entry, ObjectNode told) {
        JsonNode traits = entry.path("traits");
        String mail = traits.path("mail").asString("");
        List<String> faults = faults(traits);
        if (mail.isEmpty()) {
            faults.add("everybody has a mail address");
        }
        if (!faults.isEmpty()) {
            sorry(told, faults);
        } else if (!kind.equals("person")) {
            store.put(kind, mail, true);
            told.put("receipt", "in").put("id", mail);
        } else if (store.byMail(mail).isPresent()) {
            told.put("receipt", "known already");
        } else {
            told.put("receipt", "in").put("id", Integer.toString(store.add(traits)));
        }
    }

    private void change(String kind, JsonNode entry, ObjectNode told) {
        int id = Integer.parseInt("0" + entry.path("id").asString("").replaceAll("\\D", ""));
        JsonNode traits = entry.path("traits");
        if (!kind.equals("person") || store.person(id).isEmpty()) {
            told.put("receipt", "not known");
            return;
        }
        List<String> faults = faults(traits);
        store.byMail(traits.path("mail").asString(""))
                .filter(other -> other != id)
                .ifPresent(other -> faults.add("somebody else has this mail address"));
        if (faults.isEmpty()) {
            store.change(id, traits);
            told.put("receipt", "in").put("id", Integer.toString(id));
        } else {
            sorry(told, faults);
        }
    }

    private void drop(String kind, JsonNode entry, ObjectNode told) {
        String text = entry.asString("");
        told.put("receipt", "out").put("id", text);
        if (kind.equals("person")) {
            store.drop(Integer.parseInt("0" + text.replaceAll("\\D", "")));
        } else {
            store.put(kind, text, false);
        }
    }

    private List<String> faults(JsonNode traits) {
        List<String> faults = new ArrayList<>();
        Map<String, Trait> known = new HashMap<>();
        store.traits().forEach(trait -> known.put(trait.trait(), trait));
        traits.properties().forEach(entry -> {
            Trait trait = known.get(entry.getKey());
            if (trait == null) {
                faults.add("there is no trait " + entry.getKey());
            } else {
                trait.fault(entry.getValue()).ifPresent(faults::add);
            }
        });
        return faults;
    }

    private static void sorry(ObjectNode told, List<String> faults) {
        ArrayNode list = told.put("receipt", "returned").putArray("because");
        faults.forEach(fault -> list.addObject().put("of", fault));
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
