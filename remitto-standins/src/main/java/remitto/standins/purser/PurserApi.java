package remitto.standins.purser;

import io.javalin.config.RoutesConfig;
import io.javalin.http.Context;
import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import remitto.standins.fault.Gate;
import remitto.standins.purser.Catalogue.CatalogueObject;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.ObjectMapper;
import tools.jackson.databind.node.ArrayNode;
import tools.jackson.databind.node.ObjectNode;

/** Purser's HTTP API for other programs. */
final class PurserApi {
    private static final int BATCH = 250;

    private final Catalogue catalogue;
    private final PurserStore store;
    private final Writer writer;
    private final Tokens tokens;
    private final TokenDesk desk;
    private final Gate gate;
    private final Clock clock;
    private final ObjectMapper json;

    PurserApi(Catalogue catalogue, PurserStore store, Tokens tokens, Gate gate, Clock clock, ObjectMapper json) {
        this.catalogue = catalogue;
        this.store = store;
        this.writer = new Writer(store);
        this.tokens = tokens;
        this.desk = new TokenDesk(tokens, json);
        this.gate = gate;
        this.clock = clock;
        this.json = json;
    }

    void mount(RoutesConfig routes) {
        routes.post("/oauth/token", context -> guarded(context, false, through -> desk.answer(context)));
        routes.get("/api/v1/whoami", context -> guarded(context, true, through -> whoami(context, through.client())));
        routes.get("/api/v1/catalogue", context -> guarded(context, true, through -> objects(context)));
        routes.get("/api/v1/catalogue/{object}", context -> guarded(context, true, through -> describe(context)));
        routes.get("/api/v1/{object}/changes", context -> guarded(context, true, through -> changes(context)));
        routes.post("/api/v1/{object}/find", context -> guarded(context, true, through -> find(context)));
        routes.post(
                "/api/v1/{object}/batch",
                context -> guarded(context, true, PurserApi::written, through -> batch(context, through)));
        routes.post(
                "/api/v1/{object}/remove",
                context -> guarded(context, true, PurserApi::removed, through -> remove(context, through)));
    }

    private static List<String> written(JsonNode body) {
        List<String> lines = new ArrayList<>();
        body.path("records")
                .forEach(record ->
                        lines.add(text(body, "by") + "=" + record.path("key").asString("")));
        return lines;
    }

    private static List<String> removed(JsonNode body) {
        List<String> lines = new ArrayList<>();
        body.path("ids").forEach(id -> lines.add("removed id=" + id.asString("")));
        return lines;
    }

    private void guarded(Context context, boolean needsToken, Gate.Handler handler) {
        guarded(context, needsToken, Gate.NONE, handler);
    }

    /** A call as the gate lets it through. */
    private void guarded(Context context, boolean needsToken, Gate.Lines lines, Gate.Handler handler) {
        gate.pass(
                context,
                () -> needsToken
                        ? tokens.visitor(authorization(context)).map(Tokens.Visitor::client)
                        : Optional.of("-"),
                "problem",
                tokens::expireAll,
                lines,
                handler);
    }

    private void whoami(Context context, String client) {
        Logins.Login login = login(context);
        ObjectNode body = json.createObjectNode().put("client", client).put("account", "Halvorn Ferries");
        body.put("login", login.name());
        ArrayNode rights = body.putArray("rights");
        catalogue.objects().forEach(object -> List.of("read", "write").forEach(what -> {
            if (login.may(object.name(), what)) {
                rights.add(object.name() + "." + what);
            }
        }));
        answer(context, 200, body);
    }

    private Logins.Login login(Context context) {
        return tokens.visitor(authorization(context))
                .map(Tokens.Visitor::login)
                .orElseThrow(() -> new Gate.Refusal(401, "the sign-in has expired"));
    }

    /** Some logins only look. */
    private CatalogueObject writable(Context context) {
        CatalogueObject object = object(context);
        Logins.Login login = login(context);
        if (!login.may(object.name(), "write")) {
            throw new Gate.Refusal(403, login.name() + " may not write " + object.name());
        }
        return object;
    }

    private void objects(Context context) {
        ObjectNode body = json.createObjectNode();
        ArrayNode list = body.putArray("objects");
        catalogue.objects().forEach(object -> list.addObject()
                .put("name", object.name())
                .put("title", object.title())
                .put("people", object.people())
                .put("count", store.count(object.name())));
        answer(context, 200, body);
    }

    private void describe(Context context) {
        CatalogueObject object = object(context);
        Logins.Login login = login(context);
        ObjectNode body = json.createObjectNode();
        body.put("name", object.name()).put("title", object.title()).put("people", object.people());
        ArrayNode list = body.putArray("fields");
        for (CatalogueField field : object.fields()) {
            ObjectNode node = list.addObject();
            node.put("name", field.name()).put("title", field.title()).put("kind", field.kind());
            node.put("required", field.required()).put("unique", field.unique());
            node.put("read_only", field.readOnly());
            node.put("writable", field.writable() && !field.readOnly() && login.may(object.name(), "write"));
            node.put("custom", field.custom());
            field.maxLength().ifPresent(length -> node.put("max_length", length));
            field.list().ifPresent(choices -> {
                ArrayNode values = node.putArray("choices");
                choices.forEach(values::add);
            });
        }
        answer(context, 200, body);
    }

    private void find(Context context) {
        CatalogueObject object = object(context);
        JsonNode body = body(context);
        String by = text(body, "by");
        List<JsonNode> values = list(body, "values");
        if (!by.equals("id") && object.field(by).isEmpty()) {
            throw new Gate.Refusal(400, "no field " + by);
        }
        ObjectNode answer = json.createObjectNode();
        ArrayNode found = answer.putArray("found");
        synchronized (store.lock()) {
            for (JsonNode value : values) {
                store.find(object.name(), by, value).forEach(one -> {
                    ObjectNode node = found.addObject();
                    node.put("id", one.id());
                    node.set("matched", value);
                    node.put("revision", one.revision());
                    node.put("changed_at", one.changedAt().toString());
                    writeFields(node, one.fields());
                });
            }
        }
        answer(context, 200, answer);
    }

    private static void writeFields(ObjectNode node, Map<String, PurserRecord.Stamped> values) {
        ObjectNode fields = node.putObject("fields");
        ObjectNode stamps = node.putObject("stamps");
        values.forEach((name, stamped) -> {
            fields.set(name, stamped.value());
            stamps.putObject(name).put("at", stamped.at().toString()).put("by", stamped.client());
        });
    }

    /** Records written or deleted since a moment, oldest change first, a page at a time. */
    private void changes(Context context) {
        CatalogueObject object = object(context);
        Instant since = instant(context.queryParam("since"));
        String cursor = Optional.ofNullable(context.queryParam("cursor")).orElse("");
        PurserStore.ChangePage page = store.changes(object.name(), since, cursor, BATCH);
        ObjectNode answer = json.createObjectNode();
        ArrayNode list = answer.putArray("changes");
        page.changes().forEach(change -> {
            ObjectNode node = list.addObject();
            node.put("id", change.id()).put("changed_at", change.at().toString());
            change.record().ifPresentOrElse(one -> writeFields(node, one), () -> node.put("deleted", true));
        });
        answer.put("next", page.next());
        answer(context, 200, answer);
    }

    private static Instant instant(String text) {
        try {
            return text == null || text.isBlank() ? Instant.EPOCH : Instant.parse(text);
        } catch (java.time.format.DateTimeParseException e) {
            throw new Gate.Refusal(400, "since is a time such as 2026-11-24T09:00:00Z");
        }
    }

    private void batch(Context context, Gate.Through through) {
        CatalogueObject object = writable(context);
        JsonNode body = body(context);
        String by = text(body, "by");
        if (!by.equals("id") && object.field(by).filter(CatalogueField::unique).isEmpty()) {
            throw new Gate.Refusal(400, by + " is not a unique field");
        }
        var policy = new Writer.Policy(
                by,
                text(body, "absent").equals("add") && !by.equals("id"),
                text(body, "present").equals("write"));
        List<Writer.Wanted> wanted = new ArrayList<>();
        for (JsonNode record : list(body, "records")) {
            Map<String, JsonNode> fields = new LinkedHashMap<>();
            record.path("fields").properties().forEach(entry -> fields.put(entry.getKey(), entry.getValue()));
            wanted.add(new Writer.Wanted(record.path("key"), fields));
        }
        ObjectNode answer = json.createObjectNode();
        ArrayNode results = answer.putArray("results");
        for (Writer.Result result : writer.write(object, policy, wanted, clock.instant(), through)) {
            through.told().add(result.outcome());
            ObjectNode node = results.addObject();
            node.put("position", result.position())
                    .put("outcome", result.outcome())
                    .put("id", result.id());
            ArrayNode problems = node.putArray("problems");
            result.problems().forEach(problem -> problems.addObject()
                    .put("field", problem.field())
                    .put("code", problem.code())
                    .put("message", problem.message()));
        }
        answer(context, 200, answer);
    }

    private void remove(Context context, Gate.Through through) {
        CatalogueObject object = writable(context);
        List<PurserStore.Change> changes = new ArrayList<>();
        ObjectNode answer = json.createObjectNode();
        ArrayNode results = answer.putArray("results");
        synchronized (store.lock()) {
            int position = 0;
            for (JsonNode id : list(body(context), "ids")) {
                boolean there = store.byId(object.name(), id.asString()).isPresent();
                if (there) {
                    changes.add(new PurserStore.Change("remove", id.asString(), Map.of()));
                }
                String outcome = there ? "removed" : "absent";
                through.told().add(outcome);
                results.addObject()
                        .put("position", position++)
                        .put("outcome", outcome)
                        .put("id", id.asString())
                        .putArray("problems");
            }
            store.apply(object.name(), changes, clock.instant(), through.client());
        }
        answer(context, 200, answer);
    }

    private CatalogueObject object(Context context) {
        return catalogue
                .object(context.pathParam("object"))
                .orElseThrow(() -> new Gate.Refusal(404, "no object " + context.pathParam("object")));
    }

    private JsonNode body(Context context) {
        return json.readTree(context.bodyAsBytes());
    }

    private static String text(JsonNode body, String name) {
        return body.path(name).asString("");
    }

    private static List<JsonNode> list(JsonNode body, String name) {
        List<JsonNode> items = new ArrayList<>();
        body.path(name).forEach(items::add);
        if (items.size() > BATCH) {
            throw new Gate.Refusal(413, "at most " + BATCH + " at a time, not " + items.size());
        }
        return items;
    }

    private static String authorization(Context context) {
        return Optional.ofNullable(context.header("Authorization")).orElse("");
    }

    private ObjectNode problem(String message) {
        return json.createObjectNode().put("problem", message);
    }

    private void answer(Context context, int status, JsonNode body) {
        context.status(status).contentType("application/json").result(json.writeValueAsBytes(body));
    }
}
