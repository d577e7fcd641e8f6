package remitto.standins.postbag;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.TreeSet;
import remitto.standins.store.DurableLog;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.ObjectMapper;
import tools.jackson.databind.node.ObjectNode;

/** Postbag's people, their traits, and lists of them; every change is one durable step. */
final class PostStore implements AutoCloseable {
    static final String STANDING = "standing";

    private final ObjectMapper json;
    private final DurableLog log;
    private final List<Trait> traits = new ArrayList<>();
    private final TreeMap<Integer, ObjectNode> people = new TreeMap<>();
    private final Map<String, Integer> byMail = new LinkedHashMap<>();
    private final Map<String, TreeSet<String>> lists = new LinkedHashMap<>();
    private int next;

    PostStore(Path file, ObjectMapper json) {
        this.json = json;
        begin();
        this.log = new DurableLog(file, json, this::apply);
    }

    private void begin() {
        traits.clear();
        traits.add(Trait.of("mail", "Mail", "text"));
        traits.add(Trait.of("given", "Given name", "text"));
        traits.add(Trait.of("family", "Family name", "text"));
        traits.add(new Trait(
                STANDING,
                "Standing",
                "pick",
                List.of("subscribed", "left", "bounced"),
                List.of("left", "bounced"),
                false,
                false,
                false));
        traits.add(new Trait("port", "Home port", "text", List.of(), List.of(), false, false, true));
        traits.add(new Trait(
                "days_since_crossing", "Days since last crossing", "amount", List.of(), List.of(), false, false, true));
        people.clear();
        byMail.clear();
        lists.clear();
        lists.put("timetable", new TreeSet<>());
        lists.put("offers", new TreeSet<>());
        next = 501;
    }

    synchronized List<Trait> traits() {
        return List.copyOf(traits);
    }

    synchronized Map<Integer, ObjectNode> people() {
        return new TreeMap<>(people);
    }

    synchronized Optional<ObjectNode> person(int id) {
        return Optional.ofNullable(people.get(id));
    }

    synchronized Optional<Integer> byMail(String mail) {
        return Optional.ofNullable(byMail.get(mail.toLowerCase(Locale.ROOT)));
    }

    synchronized Map<String, TreeSet<String>> lists() {
        Map<String, TreeSet<String>> copy = new LinkedHashMap<>();
        lists.forEach((name, mails) -> copy.put(name, new TreeSet<>(mails)));
        return copy;
    }

    synchronized int add(JsonNode values) {
        int id = next;
        step(json.createObjectNode().put("do", "add").put("id", id).set("values", values));
        return id;
    }

    synchronized void change(int id, JsonNode values) {
        step(json.createObjectNode().put("do", "change").put("id", id).set("values", values));
    }

    synchronized void drop(int id) {
        step(json.createObjectNode().put("do", "drop").put("id", id));
    }

    synchronized void put(String list, String mail, boolean on) {
        step(json.createObjectNode()
                .put("do", on ? "on" : "off")
                .put("list", list)
                .put("mail", mail));
    }

    synchronized void addTrait(Trait trait) {
        step(json.createObjectNode().put("do", "trait").set("trait", json.valueToTree(trait)));
    }

    private void step(JsonNode line) {
        log.append(line);
        apply(line);
    }

    private void apply(JsonNode line) {
        int id = line.path("id").asInt(0);
        switch (line.get("do").asString()) {
            case "add" -> {
                ObjectNode person = json.createObjectNode().put(STANDING, "subscribed");
                take(person, line.get("values"));
                people.put(id, person);
                byMail.put(mail(person), id);
                next = Math.max(next, id + 1);
            }
            case "change" -> {
                ObjectNode person = people.get(id);
                byMail.remove(mail(person));
                take(person, line.get("values"));
                byMail.put(mail(person), id);
            }
            case "drop" -> {
                ObjectNode person = people.remove(id);
                if (person != null) {
                    byMail.remove(mail(person));
                }
            }
            case "on" ->
                lists.get(line.get("list").asString()).add(line.get("mail").asString());
            case "off" ->
                lists.get(line.get("list").asString()).remove(line.get("mail").asString());
            default -> traits.add(json.treeToValue(line.get("trait"), Trait.class));
        }
    }

    private static void take(ObjectNode person, JsonNode values) {
        values.properties().forEach(entry -> person.set(entry.getKey(), entry.getValue()));
    }

    private static String mail(ObjectNode person) {
        return person.path("mail").asString("").toLowerCase(Locale.ROOT);
    }

    synchronized void clear() {
        log.clear();
        begin();
    }

    @Override
    public synchronized void close() {
        log.close();
    }
}
