package remitto.standins.gangway;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import remitto.standins.store.DurableLog;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.ObjectMapper;
import tools.jackson.databind.node.ObjectNode;

/** Gangway's users and companies with their slots; every change is one durable step. */
final class GangStore implements AutoCloseable {
    private static final int FIRST = 7_000;

    private final ObjectMapper json;
    private final DurableLog log;
    private final Map<String, List<Slot>> slots = new LinkedHashMap<>();
    private final Map<String, TreeMap<Integer, ObjectNode>> rows = new LinkedHashMap<>();
    private int next = FIRST;

    GangStore(Path file, ObjectMapper json) {
        this.json = json;
        begin();
        this.log = new DurableLog(file, json, this::apply);
    }

    private void begin() {
        slots.clear();
        slots.put(
                "user",
                new ArrayList<>(List.of(
                        new Slot("handle", "Handle", "words", true, true, 60, false),
                        new Slot("mail", "Mail", "words", false, true, 120, false),
                        new Slot("given", "Given name", "words", false, false, 60, false),
                        new Slot("family", "Family name", "words", false, false, 60, false),
                        new Slot("company_no", "Company", "number", false, false, 20, false),
                        new Slot("last_crossing", "Last crossing", "day", false, false, 10, true),
                        new Slot("crossings", "Crossings", "number", false, false, 20, true))));
        slots.put(
                "company",
                new ArrayList<>(List.of(
                        new Slot("register_no", "Register number", "words", true, true, 40, false),
                        new Slot("called", "Called", "words", true, false, 80, false),
                        new Slot("tonnage", "Tonnage", "number", false, false, 20, true))));
        rows.clear();
        slots.keySet().forEach(object -> rows.put(object, new TreeMap<>()));
        next = FIRST;
    }

    synchronized boolean has(String object) {
        return slots.containsKey(object);
    }

    synchronized List<Slot> slots(String object) {
        return List.copyOf(slots.get(object));
    }

    synchronized Map<Integer, ObjectNode> rows(String object) {
        return new TreeMap<>(rows.get(object));
    }

    synchronized Optional<ObjectNode> row(String object, int no) {
        return Optional.ofNullable(rows.get(object).get(no));
    }

    synchronized List<Integer> seek(String object, String slot, JsonNode value) {
        return rows.get(object).entrySet().stream()
                .filter(entry -> slot.equals("no")
                        ? Integer.toString(entry.getKey()).equals(value.asString(""))
                        : value.asString("").equals(entry.getValue().path(slot).asString("")))
                .map(Map.Entry::getKey)
                .toList();
    }

    /** @return the number it got */
    synchronized int add(String object, JsonNode values) {
        int no = next;
        step("add", object, no, values);
        return no;
    }

    synchronized void change(String object, int no, JsonNode values) {
        step("change", object, no, values);
    }

    synchronized void drop(String object, int no) {
        step("drop", object, no, json.createObjectNode());
    }

    synchronized void addSlot(String object, Slot slot) {
        ObjectNode line = json.createObjectNode().put("do", "slot").put("object", object);
        line.set("slot", json.valueToTree(slot));
        log.append(line);
        apply(line);
    }

    private void step(String what, String object, int no, JsonNode values) {
        ObjectNode line =
                json.createObjectNode().put("do", what).put("object", object).put("no", no);
        line.set("values", values);
        log.append(line);
        apply(line);
    }

    private void apply(JsonNode line) {
        String object = line.get("object").asString();
        int no = line.path("no").asInt();
        switch (line.get("do").asString()) {
            case "add" -> {
                rows.get(object).put(no, merged(json.createObjectNode(), line.get("values")));
                next = Math.max(next, no + 1);
            }
            case "change" ->
                rows.get(object).computeIfPresent(no, (key, before) -> merged(before.deepCopy(), line.get("values")));
            case "drop" -> rows.get(object).remove(no);
            default -> slots.get(object).add(json.treeToValue(line.get("slot"), Slot.class));
        }
    }

    private static ObjectNode merged(ObjectNode row, JsonNode values) {
        values.properties().forEach(entry -> row.set(entry.getKey(), entry.getValue()));
        return row;
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
