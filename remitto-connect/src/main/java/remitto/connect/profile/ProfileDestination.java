package remitto.connect.profile;

import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.OptionalLong;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import remitto.connect.destination.Destination;
import remitto.connect.destination.DestinationProblem;
import remitto.connect.destination.DestinationProblem.Kind;
import remitto.connect.destination.Finding;
import remitto.connect.destination.Leave;
import remitto.connect.destination.ListMaking;
import remitto.connect.destination.Listing;
import remitto.connect.destination.RateLimit;
import remitto.connect.destination.WholeFiles;
import remitto.connect.destination.Writing;
import remitto.connect.signin.Login;
import remitto.core.delivery.Backoff;
import remitto.core.destination.Abilities;
import remitto.core.destination.Field;
import remitto.core.destination.FieldKind;
import remitto.core.destination.Fit;
import remitto.core.destination.ObjectDescription;
import remitto.core.manifest.FieldPast;
import remitto.core.value.JsonForm;
import remitto.core.value.Value;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.ObjectMapper;

/** Any destination that a profile describes, over HTTP. Safe to share between threads. */
public final class ProfileDestination implements Destination, Finding, Listing, Writing, Setup {
    private final Profile profile;
    private final ObjectMapper json;
    private final ApiClient apiClient;
    private final Template template;
    private final ProfileWriter writer;
    private final Map<String, String> settings;

    public ProfileDestination(Profile profile, Login login, CallTools tools, RateLimit rateLimit, Backoff backoff) {
        this(profile, login, tools, rateLimit, backoff, CallWatcher.NONE);
    }

    ProfileDestination(
            Profile profile, Login login, CallTools tools, RateLimit rateLimit, Backoff backoff, CallWatcher watcher) {
        this.profile = profile;
        this.json = tools.json();
        this.settings = login.settings();
        this.apiClient = new ApiClient(profile, login, tools, rateLimit, backoff, watcher);
        this.template = new Template(json);
        this.writer = new ProfileWriter(profile, apiClient, json);
    }

    @Override
    public String check() {
        if (profile.check().isEmpty()) {
            return profile.title() + " is called only when there is something to send; whether it answers shows then";
        }
        var check = profile.check().get();
        var reply = apiClient.reading(check.method(), check.path(), Optional.empty());
        List<String> said = new ArrayList<>();
        reply.body().properties().forEach(entry -> {
            if (entry.getValue().isValueNode()) {
                said.add(entry.getKey() + " " + entry.getValue().asString(""));
            }
        });
        return profile.title() + " answers" + (said.isEmpty() ? "" : ": " + String.join(", ", said));
    }

    @Override
    public List<ObjectSummary> objects() {
        var how = profile.objects();
        List<ObjectSummary> found = new ArrayList<>();
        how.fixed()
                .ifPresent(fixed -> fixed.forEach(one -> found.add(new ObjectSummary(
                        one.name(),
                        one.title(),
                        one.people().orElse(false),
                        one.list().orElse(false)))));
        if (how.path().isEmpty()) {
            return found;
        }
        var reply = apiClient.reading(how.method().orElse("GET"), how.path().get(), Optional.empty());
        for (JsonNode item : reply.body().at(how.items().orElse(""))) {
            String name = text(item, how.name(), "");
            found.add(new ObjectSummary(
                    name,
                    text(item, how.title(), name),
                    flag(item, how.people(), false),
                    flag(item, how.list(), false)));
        }
        return found;
    }

    @Override
    public Optional<Finding> finding() {
        return profile.find().map(how -> this);
    }

    @Override
    public Optional<Listing> listing() {
        return profile.list().map(how -> this);
    }

    @Override
    public Optional<Writing> writing() {
        return Optional.of(this);
    }

    @Override
    public Optional<WholeFiles> files() {
        return Optional.empty();
    }

    @Override
    public ListFacts listFacts(String object) {
        var how = profile.objects();
        if (how.path().isPresent()) {
            var reply = apiClient.reading(how.method().orElse("GET"), how.path().get(), Optional.empty());
            for (JsonNode item : reply.body().at(how.items().orElse(""))) {
                if (text(item, how.name(), "").equals(object)) {
                    return new ListFacts(
                            number(item, how.size()), number(item, how.found()), number(item, how.smallest()));
                }
            }
        }
        return ListFacts.NOTHING;
    }

    private static OptionalLong number(JsonNode item, Optional<String> place) {
        return place.map(item::at)
                .filter(JsonNode::isNumber)
                .map(found -> OptionalLong.of(found.asLong()))
                .orElse(OptionalLong.empty());
    }

    @Override
    public Optional<ListMaking> listMaking() {
        return profile.objects().create().map(how -> title -> makeList(how, title));
    }

    private String makeList(Profile.MakeList how, String title) {
        byte[] body = json.writeValueAsBytes(template.fill(how.body(), Map.of("title", template.text(title))));
        Reply reply;
        try {
            reply = apiClient.writing(how.method(), how.path(), body, Map.of(), true, Leave.ALWAYS);
        } catch (CallFailure e) {
            throw new DestinationProblem(
                    Kind.UNREACHABLE, "It is not known whether the list was made: " + e.getMessage() + ". Look again.");
        }
        String id = reply.status() < 300 ? reply.body().at(how.id()).asString("") : "";
        if (id.isEmpty()) {
            throw new DestinationProblem(
                    Kind.REFUSED,
                    profile.title() + " did not make the list (" + reply.status() + "): "
                            + profile.problemMessage()
                                    .map(at -> reply.body().at(at).asString(""))
                                    .orElse(""));
        }
        return id;
    }

    @Override
    public ObjectDescription describe(String object) {
        ObjectSummary summary = objects().stream()
                .filter(one -> one.name().equals(object))
                .findFirst()
                .orElseThrow(() -> new DestinationProblem(Kind.REFUSED, profile.title() + " has no object " + object));
        Abilities abilities = new Abilities(
                summary.list(),
                profile.find().isPresent(),
                profile.update().isPresent(),
                profile.remove().isPresent(),
                profile.find().flatMap(Profile.Find::stamps).isPresent());
        return new ObjectDescription(object, summary.title(), summary.people(), abilities, fields(object));
    }

    private List<Field> fields(String object) {
        var how = profile.fields();
        List<Field> fields = new ArrayList<>();
        how.fixed()
                .ifPresent(fixed -> fixed.forEach(one -> fields.add(new Field(
                        one.name(),
                        one.title(),
                        one.kind(),
                        one.required().orElse(false),
                        one.unique().orElse(false),
                        false,
                        true,
                        false,
                        one.maxLength().map(OptionalInt::of).orElse(OptionalInt.empty()),
                        List.of()))));
        how.fromSetting().ifPresent(name -> fields.addAll(typed(settings.getOrDefault(name, ""))));
        if (how.path().isEmpty()) {
            return fields;
        }
        String path = Template.path(how.path().get(), Map.of("object", object));
        var reply = apiClient.reading(how.method().orElse("GET"), path, Optional.empty());
        reply.body().at(how.items().orElse("")).forEach(item -> fields.add(field(how, item)));
        return fields;
    }

    /** Fields that a person typed: names, each with its kind behind a colon where it is not text. */
    private static List<Field> typed(String text) {
        List<Field> fields = new ArrayList<>();
        for (String one : text.split("[,;\\s]+")) {
            String[] parts = one.split(":", 2);
            if (!parts[0].isEmpty()) {
                fields.add(new Field(
                        parts[0],
                        parts[0],
                        kind(parts.length > 1 ? parts[1] : "text"),
                        false,
                        false,
                        false,
                        true,
                        false,
                        OptionalInt.empty(),
                        List.of()));
            }
        }
        return fields;
    }

    private static FieldKind kind(String word) {
        return Arrays.stream(FieldKind.values())
                .filter(kind -> kind != FieldKind.CHOICE && kind.name().equalsIgnoreCase(word))
                .findFirst()
                .orElseThrow(() -> new DestinationProblem(
                        Kind.REFUSED,
                        "\"" + word + "\" is no kind of field; take text, integer, decimal, boolean, date,"
                                + " timestamp, email, phone or list."));
    }

    private static Field field(Profile.Fields how, JsonNode item) {
        String name = text(item, how.name(), "");
        List<String> choices = new ArrayList<>();
        how.choices().ifPresent(at -> item.at(at).forEach(choice -> choices.add(choice.asString(""))));
        List<String> theirs = new ArrayList<>();
        how.theirs().ifPresent(at -> item.at(at).forEach(one -> theirs.add(one.asString(""))));
        return new Field(
                name,
                text(item, how.title(), name),
                how.kinds().orElse(Map.of()).getOrDefault(text(item, how.kind(), ""), FieldKind.TEXT),
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
                choices,
                theirs);
    }

    @Override
    public Optional<Answers> answers() {
        return profile.answers().map(one -> new Answers(one.object(), one.address(), one.field(), one.no()));
    }

    @Override
    public List<RemoteRecord> find(ObjectDescription object, String by, List<Value> values) {
        var how = profile.find().orElseThrow(() -> cannot("look up single records"));
        List<RemoteRecord> found = new ArrayList<>();
        int size = how.oneByOne() ? 1 : profile.limits().recordsPerCall();
        for (int from = 0; from < values.size(); from += size) {
            List<Value> some = values.subList(from, Math.min(values.size(), from + size));
            found.addAll(find(object, how, by.equals(ID) ? how.byId().orElse(by) : by, some));
        }
        return found;
    }

    private List<RemoteRecord> find(ObjectDescription object, Profile.Find how, String by, List<Value> some) {
        Map<String, JsonNode> inBody = Map.of(
                "object", template.text(object.name()),
                "by", template.text(by),
                "value", json.valueToTree(plain(some.get(0))),
                "values",
                        json.valueToTree(
                                some.stream().map(ProfileDestination::plain).toList()));
        String path = Template.path(
                how.path(),
                Map.of(
                        "object", object.name(),
                        "by", by,
                        "value", some.get(0).display(),
                        "values", some.stream().map(Value::display).collect(Collectors.joining(","))));
        Optional<byte[]> body = how.body().map(text -> json.writeValueAsBytes(template.fill(text, inBody)));
        Optional<Reply> reply = how.oneByOne()
                ? apiClient.readingIfThere(how.method(), path, body)
                : Optional.of(apiClient.reading(how.method(), path, body));
        JsonNode items = reply.map(one -> one.body().at(how.items())).orElseGet(json::createArrayNode);
        List<RemoteRecord> found = new ArrayList<>();
        for (JsonNode item : items.isObject() ? List.of(items) : items) {
            found.add(record(object, item, how.id(), how.fields(), how.stamps()));
        }
        return found;
    }

    @Override
    public Optional<String> recordPage() {
        return profile.recordPage()
                .map(page -> Template.settings(page, settings))
                .filter(page -> page.startsWith("https://") || page.startsWith("http://"));
    }

    @Override
    public boolean tellsChanges() {
        return profile.list().filter(Profile.Listing::tellsChanges).isPresent();
    }

    @Override
    public Page list(ObjectDescription object, Optional<Instant> since, Optional<String> cursor) {
        var how = profile.list().orElseThrow(() -> cannot("list its records"));
        Paging paging = new Paging(how);
        String here = cursor.orElseGet(paging::first);
        Map<String, String> named = Map.of(
                "object", object.name(),
                "since", since.orElse(Instant.EPOCH).toString(),
                "cursor", here,
                "size", Integer.toString(paging.size()));
        String path = paging.addressed() && cursor.isPresent() ? here : Template.path(how.path(), named);
        Map<String, JsonNode> inBody = new HashMap<>();
        named.forEach((name, value) -> inBody.put(name, template.text(value)));
        inBody.put("size", json.valueToTree(paging.size()));
        var reply = apiClient.reading(
                how.method(), path, how.body().map(body -> json.writeValueAsBytes(template.fill(body, inBody))));
        List<RemoteRecord> records = new ArrayList<>();
        List<String> deleted = new ArrayList<>();
        for (JsonNode item : reply.body().at(how.items())) {
            if (flag(item, how.deleted(), false)) {
                deleted.add(item.at(how.id()).asString(""));
            } else {
                records.add(record(object, item, how.id(), how.fields(), how.stamps()));
            }
        }
        int items = reply.body().at(how.items()).size();
        return new Page(records, deleted, paging.after(reply, here, apiClient.address(path), items));
    }

    private RemoteRecord record(
            ObjectDescription object, JsonNode item, String id, String fields, Optional<Profile.Stamps> stamps) {
        Map<String, Value> values = new HashMap<>();
        JsonNode there = item.at(fields);
        object.fields().forEach(field -> values.put(field.name(), Fit.read(field, tree(there.get(field.name())))));
        Map<String, FieldPast.Stamp> times = new HashMap<>();
        stamps.ifPresent(how -> item.at(how.place()).properties().forEach(entry -> stamp(how, entry.getValue())
                .ifPresent(one -> times.put(entry.getKey(), one))));
        return new RemoteRecord(item.at(id).asString(""), values, times);
    }

    /** When and by whom a field was last written; empty when the tool does not say so of this one. */
    private Optional<FieldPast.Stamp> stamp(Profile.Stamps how, JsonNode told) {
        try {
            String us = settings.getOrDefault(how.us(), "");
            return Optional.of(new FieldPast.Stamp(
                    Instant.parse(told.at(how.at()).asString("")),
                    told.at(how.by()).asString(""),
                    !us.isEmpty() && us.equals(told.at(how.by()).asString(""))));
        } catch (java.time.format.DateTimeParseException e) {
            return Optional.empty();
        }
    }

    @Override
    public CallOutcome add(Batch batch) {
        return writer.write(profile.add(), batch);
    }

    @Override
    public CallOutcome update(Batch batch) {
        return writer.write(profile.update().orElseThrow(() -> cannot("change records")), batch);
    }

    @Override
    public CallOutcome remove(Batch batch) {
        return writer.write(profile.remove().orElseThrow(() -> cannot("remove records")), batch);
    }

    @Override
    public List<Account> accounts() {
        if (profile.accounts().isEmpty()) {
            return List.of();
        }
        var how = profile.accounts().get();
        var reply = apiClient.reading(how.method(), how.path(), Optional.empty());
        List<Account> found = new ArrayList<>();
        for (JsonNode item : reply.body().at(how.items())) {
            String id = item.at(how.id()).asString("");
            found.add(new Account(id, text(item, how.title(), id)));
        }
        return found;
    }

    @Override
    public Found ask(Profile.Ask how) {
        var reply = apiClient.reading(how.method(), how.path(), Optional.empty());
        JsonNode there = reply.body().at(how.place());
        List<String> values = new ArrayList<>();
        if (there.isArray()) {
            there.forEach(item -> values.add(item.asString("")));
        } else if (!there.isMissingNode() && !there.isNull()) {
            values.add(there.asString(""));
        }
        boolean met = how.is().or(how::holds).map(values::contains).orElse(!values.isEmpty());
        return new Found(met, String.join(", ", values));
    }

    private DestinationProblem cannot(String what) {
        return new DestinationProblem(Kind.REFUSED, profile.title() + " offers no way to " + what + ".");
    }

    private static String text(JsonNode item, Optional<String> at, String otherwise) {
        return at.map(place -> item.at(place).asString(otherwise)).orElse(otherwise);
    }

    private static boolean flag(JsonNode item, Optional<String> at, boolean otherwise) {
        return at.map(place -> item.at(place).asBoolean(otherwise)).orElse(otherwise);
    }

    private static Object plain(Value value) {
        return JsonForm.write(value).orElse("");
    }

    private Optional<Object> tree(@Nullable JsonNode node) {
        return node == null || node.isNull() ? Optional.empty() : Optional.of(json.treeToValue(node, Object.class));
    }
}
