package remitto.standins.purser;

import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import remitto.standins.store.DurableLog;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.ObjectMapper;
import tools.jackson.databind.node.ArrayNode;
import tools.jackson.databind.node.NullNode;
import tools.jackson.databind.node.ObjectNode;

/**
 * Purser's data. It is its own write log: one line of JSON per call that had an effect, forced to disk before
 * the call takes effect in memory, and replayed at the start. A line cut off by a crash is dropped.
 */
final class PurserStore implements AutoCloseable {
    private static final long FIRST_ID = 40_001;

    private final ObjectMapper json;
    private final Catalogue catalogue;
    private final Map<String, Map<String, PurserRecord>> records = new HashMap<>();
    private final Map<String, Map<Object, String>> unique = new HashMap<>();
    /** Every record's latest change, and every deletion, in the order they happened. */
    private final Map<String, TreeMap<ChangeKey, String>> feed = new HashMap<>();

    private final Map<String, ChangeKey> latestChange = new HashMap<>();
    private final DurableLog log;
    private long nextId = FIRST_ID;
    private long changeCount;

    PurserStore(Path file, Catalogue catalogue, ObjectMapper json) {
        this.json = json;
        this.catalogue = catalogue;
        catalogue.objects().forEach(object -> {
            records.put(object.name(), new TreeMap<>());
            feed.put(object.name(), new TreeMap<>());
        });
        this.log = new DurableLog(file, json, this::replayLine);
    }

    private record ChangeKey(Instant at, long number) implements Comparable<ChangeKey> {
        @Override
        public int compareTo(ChangeKey other) {
            int byTime = at.compareTo(other.at);
            return byTime != 0 ? byTime : Long.compare(number, other.number);
        }
    }

    /** @param record absent when it was deleted */
    record FeedChange(String id, Instant at, Optional<Map<String, PurserRecord.Stamped>> record) {}

    /** @param next blank on the last page */
    record ChangePage(List<FeedChange> changes, String next) {}

    /** @param cursor where the page before ended; blank for the first page */
    synchronized ChangePage changes(String object, Instant since, String cursor, int limit) {
        ChangeKey from = new ChangeKey(since, 0);
        if (!cursor.isEmpty()) {
            String[] parts = cursor.split("_");
            from = new ChangeKey(Instant.parse(parts[0]), Long.parseLong(parts[1]) + 1);
        }
        List<FeedChange> changes = new ArrayList<>();
        String next = "";
        for (var entry : feed.get(object).tailMap(from, true).entrySet()) {
            if (changes.size() == limit) {
                break;
            }
            changes.add(new FeedChange(
                    entry.getValue(),
                    entry.getKey().at(),
                    byId(object, entry.getValue()).map(one -> new LinkedHashMap<>(one.fields()))));
            next = entry.getKey().at() + "_" + entry.getKey().number();
        }
        return new ChangePage(changes, changes.size() == limit ? next : "");
    }

    private void noteChange(String object, String id, Instant at) {
        ChangeKey now = new ChangeKey(at, ++changeCount);
        Optional.ofNullable(latestChange.put(object + "/" + id, now)).ifPresent(feed.get(object)::remove);
        feed.get(object).put(now, id);
    }

    /** One change a call asks for; an absent field stays as it is, JSON null clears it. */
    record Change(String op, String id, Map<String, JsonNode> fields) {}

    synchronized Optional<PurserRecord> byId(String object, String id) {
        return Optional.ofNullable(records.get(object).get(id));
    }

    synchronized List<PurserRecord> find(String object, String field, JsonNode value) {
        if (field.equals("id")) {
            return byId(object, value.asString()).stream().toList();
        }
        Object wanted = CatalogueField.comparable(value);
        boolean isUnique = catalogue
                .object(object)
                .flatMap(found -> found.field(field))
                .map(CatalogueField::unique)
                .orElse(false);
        if (isUnique) {
            return Optional.ofNullable(index(object, field).get(wanted)).flatMap(id -> byId(object, id)).stream()
                    .toList();
        }
        return records.get(object).values().stream()
                .filter(found -> found.value(field)
                        .map(CatalogueField::comparable)
                        .filter(wanted::equals)
                        .isPresent())
                .toList();
    }

    synchronized List<PurserRecord> all(String object) {
        return List.copyOf(records.get(object).values());
    }

    synchronized int count(String object) {
        return records.get(object).size();
    }

    /** Applies a call's changes as one durable step. The caller has checked them under {@link #lock}. */
    void apply(String object, List<Change> changes, Instant at, String client) {
        if (changes.isEmpty()) {
            return;
        }
        ObjectNode line = json.createObjectNode();
        line.put("at", at.toString());
        line.put("client", client);
        line.put("object", object);
        ArrayNode list = line.putArray("changes");
        for (Change change : changes) {
            ObjectNode node = list.addObject();
            node.put("op", change.op());
            node.put("id", change.id());
            ObjectNode fields = node.putObject("fields");
            change.fields().forEach(fields::set);
        }
        log.append(line);
        changes.forEach(change -> applyInMemory(object, change, at, client));
    }

    /** Holds everybody else off while a call checks and applies. */
    Object lock() {
        return this;
    }

    String newId() {
        return Long.toString(nextId++);
    }

    Optional<String> holder(String object, String field, JsonNode value) {
        return Optional.ofNullable(index(object, field).get(CatalogueField.comparable(value)));
    }

    /** Forgets everything. */
    synchronized void clear() {
        log.clear();
        forget();
    }

    /** Remembers everything as it is now. */
    synchronized void keep() {
        log.keep();
    }

    /** Everything is as it was when it was kept. */
    synchronized void back() {
        forget();
        log.back(this::replayLine);
    }

    private void forget() {
        records.values().forEach(Map::clear);
        feed.values().forEach(Map::clear);
        latestChange.clear();
        unique.clear();
        nextId = FIRST_ID;
    }

    @Override
    public synchronized void close() {
        log.close();
    }

    private Map<Object, String> index(String object, String field) {
        return unique.computeIfAbsent(object + "." + field, name -> new HashMap<>());
    }

    private void applyInMemory(String object, Change change, Instant at, String client) {
        Map<String, PurserRecord> ofObject = records.get(object);
        noteChange(object, change.id(), at);
        if (change.op().equals("remove")) {
            Optional.ofNullable(ofObject.remove(change.id())).ifPresent(gone -> unindex(object, gone));
            return;
        }
        PurserRecord target = ofObject.computeIfAbsent(change.id(), PurserRecord::new);
        unindex(object, target);
        target.write(change.fields(), at, client);
        uniqueFields(object).forEach(field -> target.value(field.name())
                .ifPresent(value -> index(object, field.name()).put(CatalogueField.comparable(value), change.id())));
        nextId = Math.max(nextId, Long.parseLong(change.id()) + 1);
    }

    private void unindex(String object, PurserRecord target) {
        uniqueFields(object).forEach(field -> target.value(field.name())
                .ifPresent(value -> index(object, field.name()).remove(CatalogueField.comparable(value))));
    }

    private Collection<CatalogueField> uniqueFields(String object) {
        return catalogue.object(object).orElseThrow().fields().stream()
                .filter(CatalogueField::unique)
                .toList();
    }

    private void replayLine(JsonNode line) {
        Instant at = Instant.parse(line.get("at").asString());
        List<Change> changes = new ArrayList<>();
        for (JsonNode node : line.get("changes")) {
            Map<String, JsonNode> fields = new LinkedHashMap<>();
            node.get("fields").properties().forEach(entry -> {
                JsonNode value = entry.getValue();
                fields.put(entry.getKey(), value.isNull() ? NullNode.getInstance() : value);
            });
            changes.add(new Change(node.get("op").asString(), node.get("id").asString(), fields));
        }
        String object = line.get("object").asString();
        changes.forEach(
                change -> applyInMemory(object, change, at, line.get("client").asString()));
    }
}
