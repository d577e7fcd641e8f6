package remitto.connect.profile;

import java.net.ConnectException;
import java.net.URI;
import java.net.URLEncoder;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.net.http.HttpTimeoutException;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Base64;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalInt;
import remitto.connect.destination.Destination;
import remitto.connect.destination.DestinationProblem;
import remitto.connect.destination.DestinationProblem.Kind;
import remitto.connect.destination.Pace;
import remitto.connect.outgoing.AddressGuard;
import remitto.core.delivery.Backoff;
import remitto.core.destination.Field;
import remitto.core.destination.FieldKind;
import remitto.core.destination.Fit;
import remitto.core.destination.ObjectDescription;
import remitto.core.value.JsonForm;
import remitto.core.value.Value;
import tools.jackson.core.JacksonException;
import tools.jackson.core.JsonPointer;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.ObjectMapper;

/** Any destination that a profile describes, over HTTP. Safe to share between threads. */
public final class ProfileDestination implements Destination {
    private final Profile profile;
    private final Map<String, String> settings;
    private final HttpClient http;
    private final ObjectMapper json;
    private final Pace pace;
    private final AddressGuard guard;
    private final Backoff backoff;
    private volatile Optional<String> token = Optional.empty();

    /** @param settings values of the profile's connection settings, secrets among them */
    public ProfileDestination(
            Profile profile,
            Map<String, String> settings,
            HttpClient http,
            ObjectMapper json,
            Pace pace,
            AddressGuard guard,
            Backoff backoff) {
        this.profile = profile;
        this.settings = Map.copyOf(settings);
        this.http = http;
        this.json = json;
        this.pace = pace;
        this.guard = guard;
        this.backoff = backoff;
    }

    @Override
    public String check() {
        Reply reply = reading(profile.check().method(), profile.check().path(), Optional.empty());
        List<String> said = new ArrayList<>();
        reply.body()
                .properties()
                .forEach(entry ->
                        said.add(entry.getKey() + " " + entry.getValue().asString("")));
        return profile.title() + " answers: " + String.join(", ", said);
    }

    @Override
    public List<ObjectSummary> objects() {
        var how = profile.objects();
        List<ObjectSummary> found = new ArrayList<>();
        for (JsonNode item :
                reading(how.method(), how.path(), Optional.empty()).body().at(how.items())) {
            String name = item.at(how.name()).asString("");
            found.add(new ObjectSummary(
                    name,
                    how.title().map(at -> item.at(at).asString(name)).orElse(name),
                    how.people().map(at -> item.at(at).asBoolean(false)).orElse(false)));
        }
        return found;
    }

    @Override
    public ObjectDescription describe(String object) {
        var how = profile.fields();
        ObjectSummary summary = objects().stream()
                .filter(one -> one.name().equals(object))
                .findFirst()
                .orElseThrow(() -> new DestinationProblem(Kind.REFUSED, profile.title() + " has no object " + object));
        List<Field> fields = new ArrayList<>();
        String path = fill(how.path(), Map.of("object", object));
        for (JsonNode item :
                reading(how.method(), path, Optional.empty()).body().at(how.items())) {
            String name = item.at(how.name()).asString("");
            List<String> choices = new ArrayList<>();
            how.choices().ifPresent(at -> item.at(at).forEach(choice -> choices.add(choice.asString(""))));
            fields.add(new Field(
                    name,
                    how.title().map(at -> item.at(at).asString(name)).orElse(name),
                    how.kinds().getOrDefault(item.at(how.kind()).asString(""), FieldKind.TEXT),
                    flag(item, how.required(), false),
                    flag(item, how.unique(), false),
                    flag(item, how.readOnly(), false),
                    flag(item, how.writable(), true),
                    flag(item, how.custom(), false),
                    how.maxLength()
                            .map(item::at)
                            .filter(JsonNode::isNumber)
                            .map(JsonNode::asInt)
                            .map(OptionalInt::of)
                            .orElse(OptionalInt.empty()),
                    choices));
        }
        return new ObjectDescription(object, summary.title(), summary.people(), fields);
    }

    @Override
    public List<RemoteRecord> find(ObjectDescription object, String by, List<Value> values) {
        var how = profile.find();
        List<RemoteRecord> found = new ArrayList<>();
        int size = profile.limits().recordsPerCall();
        for (int from = 0; from < values.size(); from += size) {
            List<Value> some = values.subList(from, Math.min(values.size(), from + size));
            JsonNode body = template(
                    how.body(),
                    Map.of(
                            "by",
                            text(by),
                            "values",
                            json.valueToTree(
                                    some.stream().map(ProfileDestination::plain).toList())));
            String path = fill(how.path(), Map.of("object", object.name()));
            for (JsonNode item :
                    reading(how.method(), path, Optional.of(body)).body().at(how.items())) {
                Map<String, Value> fields = new HashMap<>();
                JsonNode there = item.at(how.fields());
                object.fields()
                        .forEach(field -> fields.put(field.name(), Fit.read(field, tree(there.get(field.name())))));
                found.add(new RemoteRecord(item.at(how.id()).asString(""), fields));
            }
        }
        return found;
    }

    @Override
    public CallOutcome add(ObjectDescription object, String keyField, List<Outgoing> records) {
        return write(profile.add(), object, Map.of("key_field", text(keyField)), records);
    }

    @Override
    public CallOutcome update(ObjectDescription object, List<Outgoing> records) {
        return write(profile.update(), object, Map.of(), records);
    }

    @Override
    public CallOutcome remove(ObjectDescription object, List<String> ids) {
        return write(
                profile.remove(),
                object,
                Map.of(),
                ids.stream().map(id -> new Outgoing(id, Value.EMPTY, Map.of())).toList());
    }

    private CallOutcome write(
            Profile.Write how, ObjectDescription object, Map<String, JsonNode> more, List<Outgoing> records) {
        Map<String, JsonNode> named = new HashMap<>(more);
        named.put(
                "records",
                json.valueToTree(
                        records.stream().map(record -> oneRecord(how, record)).toList()));
        String path = fill(how.path(), Map.of("object", object.name()));
        byte[] body = json.writeValueAsBytes(template(how.body(), named));
        try {
            Reply reply = call(how.method(), path, Optional.of(body));
            if (reply.status() == 401) {
                token = Optional.empty();
                reply = call(how.method(), path, Optional.of(body));
            }
            return outcome(reply, records.size(), exchange(how.method(), path, body, reply));
        } catch (NotSentFailure e) {
            return new CallOutcome.NotSent(e.getMessage());
        } catch (UnknownFailure e) {
            return new CallOutcome.Unknown(e.getMessage());
        }
    }

    private JsonNode oneRecord(Profile.Write how, Outgoing record) {
        var fields = json.createObjectNode();
        record.fields().forEach((name, value) -> fields.set(name, node(value)));
        return template(how.record(), Map.of("id", text(record.id()), "key", node(record.key()), "fields", fields));
    }

    private CallOutcome outcome(Reply reply, int expected, Exchange exchange) {
        if (reply.status() == 429 || reply.status() == 503) {
            reply.retryAfter().ifPresent(pace::pause);
            return new CallOutcome.Throttled(reply.retryAfter());
        }
        if (reply.status() >= 300) {
            return new CallOutcome.Failed(reply.status(), problem(reply), profile.retriable(reply.status()), exchange);
        }
        var places = profile.results();
        JsonNode items = reply.body().at(places.items());
        if (!items.isArray() || items.size() != expected) {
            return new CallOutcome.Unknown("The answer does not hold a result for each of the " + expected
                    + " records: " + shorten(reply.text()));
        }
        RecordResult[] results = new RecordResult[expected];
        int counted = 0;
        for (JsonNode item : items) {
            int at = counted++;
            int position =
                    places.position().map(place -> item.at(place).asInt(at)).orElse(at);
            String word = item.at(places.outcome()).asString("");
            List<FieldProblem> problems = new ArrayList<>();
            places.problems().ifPresent(place -> item.at(place)
                    .forEach(problem -> problems.add(new FieldProblem(
                            places.problemField()
                                    .map(name -> problem.at(name).asString(""))
                                    .orElse(""),
                            places.problemMessage()
                                    .map(name -> problem.at(name).asString(""))
                                    .orElse("")))));
            results[position] = new RecordResult(
                    places.accepted().contains(word),
                    places.movedOn().orElse(List.of()).contains(word),
                    word,
                    item.at(places.id()).asString(""),
                    problems);
        }
        return new CallOutcome.Answered(List.of(results), exchange);
    }

    private record Reply(int status, JsonNode body, String text, Optional<Duration> retryAfter) {}

    private static final class NotSentFailure extends RuntimeException {
        NotSentFailure(String message) {
            super(message);
        }
    }

    private static final class UnknownFailure extends RuntimeException {
        UnknownFailure(String message) {
            super(message);
        }
    }

    private Reply reading(String method, String path, Optional<JsonNode> body) {
        Optional<byte[]> bytes = body.map(json::writeValueAsBytes);
        String last = "";
        boolean refreshed = false;
        for (int attempt = 1; attempt <= backoff.tries(); attempt++) {
            try {
                Reply reply = call(method, path, bytes);
                if (reply.status() < 300) {
                    return reply;
                }
                if (reply.status() == 401 && !refreshed) {
                    refreshed = true;
                    token = Optional.empty();
                    continue;
                }
                if (!profile.retriable(reply.status())) {
                    throw new DestinationProblem(
                            reply.status() == 401 ? Kind.SIGN_IN_REFUSED : Kind.REFUSED,
                            profile.title() + " refused " + method + " " + path + " (" + reply.status() + "): "
                                    + problem(reply));
                }
                last = reply.status() + ", " + problem(reply);
                waitFor(reply.retryAfter().orElse(backoff.pause(attempt, Math.random())));
            } catch (NotSentFailure | UnknownFailure e) {
                last = String.valueOf(e.getMessage());
                waitFor(backoff.pause(attempt, Math.random()));
            }
        }
        throw new DestinationProblem(
                Kind.UNREACHABLE, profile.title() + " could not be read after " + backoff.tries() + " tries: " + last);
    }

    private Reply call(String method, String path, Optional<byte[]> body) {
        String bearer = token.orElseGet(this::signIn);
        HttpRequest.Builder request = HttpRequest.newBuilder(address(path))
                .header("Authorization", "Bearer " + bearer)
                .header("Content-Type", "application/json")
                .method(
                        method,
                        body.map(HttpRequest.BodyPublishers::ofByteArray).orElse(HttpRequest.BodyPublishers.noBody()));
        return exchange(request);
    }

    private synchronized String signIn() {
        if (token.isPresent()) {
            return token.get();
        }
        var how = profile.authentication();
        String pair = settings.getOrDefault(how.clientId(), "") + ":" + settings.getOrDefault(how.clientSecret(), "");
        Reply reply = exchange(HttpRequest.newBuilder(address(how.tokenPath()))
                .header(
                        "Authorization",
                        "Basic " + Base64.getEncoder().encodeToString(pair.getBytes(StandardCharsets.UTF_8)))
                .header("Content-Type", "application/x-www-form-urlencoded")
                .POST(HttpRequest.BodyPublishers.ofString("grant_type=client_credentials")));
        String issued = reply.body().path("access_token").asString("");
        if (reply.status() == 400 || reply.status() == 401) {
            throw new DestinationProblem(
                    Kind.SIGN_IN_REFUSED,
                    profile.title() + " refused to sign in: the client id or its secret is wrong.");
        }
        if (reply.status() >= 300 || issued.isEmpty()) {
            throw new NotSentFailure("signing in answered " + reply.status());
        }
        token = Optional.of(issued);
        return issued;
    }

    private Reply exchange(HttpRequest.Builder request) {
        pace.await();
        try {
            HttpResponse<String> response = http.send(
                    request.timeout(Duration.ofSeconds(profile.limits().longestCallSeconds()))
                            .build(),
                    HttpResponse.BodyHandlers.ofString(StandardCharsets.UTF_8));
            Optional<Duration> retryAfter = response.headers()
                    .firstValue("Retry-After")
                    .filter(text -> text.matches("\\d{1,6}"))
                    .map(text -> Duration.ofSeconds(Long.parseLong(text)));
            if (response.statusCode() == 429) {
                pace.pause(retryAfter.orElse(Duration.ofSeconds(1)));
            }
            return new Reply(response.statusCode(), parse(response), response.body(), retryAfter);
        } catch (ConnectException e) {
            throw new NotSentFailure("nobody answers at " + settings.getOrDefault("base_address", ""));
        } catch (HttpTimeoutException e) {
            throw new UnknownFailure("no answer within " + profile.limits().longestCallSeconds() + " s");
        } catch (java.io.IOException e) {
            throw new UnknownFailure("the connection was lost: " + e.getMessage());
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new UnknownFailure("stopped while waiting for the answer");
        }
    }

    private JsonNode parse(HttpResponse<String> response) {
        try {
            JsonNode tree = json.readTree(response.body());
            return tree.isMissingNode() ? json.createObjectNode() : tree;
        } catch (JacksonException e) {
            if (response.statusCode() < 300) {
                throw new UnknownFailure("the answer is not JSON: " + shorten(response.body()));
            }
            return json.createObjectNode();
        }
    }

    private URI address(String path) {
        URI address = URI.create(settings.getOrDefault("base_address", "").replaceAll("/+$", "") + path);
        try {
            guard.check(address);
        } catch (IllegalArgumentException e) {
            throw new DestinationProblem(Kind.REFUSED, String.valueOf(e.getMessage()));
        }
        return address;
    }

    private Exchange exchange(String method, String path, byte[] body, Reply reply) {
        return new Exchange(
                method,
                address(path).toString(),
                new String(body, StandardCharsets.UTF_8),
                reply.status(),
                reply.text());
    }

    private String problem(Reply reply) {
        return profile.problemMessage()
                .map(at -> reply.body().at(JsonPointer.compile(at)).asString(""))
                .filter(text -> !text.isEmpty())
                .orElse(shorten(reply.text()));
    }

    private static void waitFor(Duration length) {
        try {
            Thread.sleep(length.toMillis());
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new DestinationProblem(Kind.UNREACHABLE, "stopped while waiting to try again");
        }
    }

    private JsonNode template(JsonNode node, Map<String, JsonNode> named) {
        if (node.isString()) {
            String text = node.asString();
            return text.startsWith("{") && text.endsWith("}")
                    ? named.getOrDefault(text.substring(1, text.length() - 1), node)
                    : node;
        }
        if (node.isObject()) {
            var out = json.createObjectNode();
            node.properties().forEach(entry -> out.set(entry.getKey(), template(entry.getValue(), named)));
            return out;
        }
        if (node.isArray()) {
            var out = json.createArrayNode();
            node.forEach(item -> out.add(template(item, named)));
            return out;
        }
        return node;
    }

    private static String fill(String path, Map<String, String> named) {
        String filled = path;
        for (var entry : named.entrySet()) {
            filled = filled.replace(
                    "{" + entry.getKey() + "}", URLEncoder.encode(entry.getValue(), StandardCharsets.UTF_8));
        }
        return filled;
    }

    private static boolean flag(JsonNode item, Optional<String> at, boolean otherwise) {
        return at.map(place -> item.at(place).asBoolean(otherwise)).orElse(otherwise);
    }

    private JsonNode text(String text) {
        return json.getNodeFactory().stringNode(text);
    }

    private JsonNode node(Value value) {
        return JsonForm.write(value)
                .<JsonNode>map(json::valueToTree)
                .orElse(json.getNodeFactory().nullNode());
    }

    private static Object plain(Value value) {
        return JsonForm.write(value).orElse("");
    }

    private Optional<Object> tree(@org.jspecify.annotations.Nullable JsonNode node) {
        return node == null || node.isNull() ? Optional.empty() : Optional.of(json.treeToValue(node, Object.class));
    }

    private static String shorten(String text) {
        return text.length() > 200 ? text.substring(0, 200) + "..." : text;
    }
}
