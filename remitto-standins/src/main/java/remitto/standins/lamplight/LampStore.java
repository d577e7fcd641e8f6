package remitto.standins.lamplight;

import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.TreeSet;
import remitto.standins.store.DurableLog;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.ObjectMapper;
import tools.jackson.databind.node.ArrayNode;
import tools.jackson.databind.node.ObjectNode;

/** Lamplight's lists and jobs. A job takes effect when it is taken, as one durable step, and is told of later. */
final class LampStore implements AutoCloseable {
    private final ObjectMapper json;
    private final DurableLog log;
    private final Map<String, TreeSet<String>> members = new TreeMap<>();
    private final List<Made> made = new ArrayList<>();
    private final Map<String, Job> jobs = new LinkedHashMap<>();
    private final Map<String, String> byKey = new HashMap<>();

    /** @param refusals by position, why a member was not taken */
    record Job(String id, String list, String action, Instant at, int size, Map<Integer, String> refusals) {}

    LampStore(Path file, List<String> lists, ObjectMapper json) {
        this.json = json;
        lists.forEach(list -> members.put(list, new TreeSet<>()));
        this.log = new DurableLog(file, json, this::replay);
    }

    /** A list that somebody made. */
    record Made(String account, String id, String name) {}

    synchronized List<Made> made() {
        return List.copyOf(made);
    }

    /** @return its id */
    synchronized String make(String account, String name, Instant at) {
        ObjectNode line = json.createObjectNode();
        line.put("at", at.toString()).put("made", name).put("account", account);
        log.append(line);
        return add(line);
    }

    private String add(JsonNode line) {
        String id = "list-" + (made.size() + 1);
        made.add(new Made(line.get("account").asString(), id, line.get("made").asString()));
        members.put(id, new TreeSet<>());
        return id;
    }

    synchronized boolean has(String list) {
        return members.containsKey(list);
    }

    synchronized List<String> members(String list) {
        return List.copyOf(members.getOrDefault(list, new TreeSet<>()));
    }

    synchronized int size(String list) {
        return members.getOrDefault(list, new TreeSet<>()).size();
    }

    /** Of the members of a list, how many Lamplight knows somebody for: about two of three, always the same. */
    synchronized int matched(String list) {
        return (int) members.getOrDefault(list, new TreeSet<>()).stream()
                .filter(hash -> Integer.parseInt(hash.substring(0, 4), 16) % 100 < 64)
                .count();
    }

    synchronized List<Job> jobs() {
        return List.copyOf(jobs.values());
    }

    synchronized Optional<Job> job(String id) {
        return Optional.ofNullable(jobs.get(id));
    }

    /**
     * Takes a job, or finds the one that was taken under the same key.
     *
     * @param partial every other member is refused
     */
    synchronized Job submit(String list, String action, List<String> hashes, String key, Instant at, boolean partial) {
        if (!key.isEmpty() && byKey.containsKey(key)) {
            return jobs.get(byKey.get(key));
        }
        ObjectNode line = json.createObjectNode();
        line.put("at", at.toString())
                .put("list", list)
                .put("do", action)
                .put("key", key)
                .put("partial", partial);
        ArrayNode wanted = line.putArray("hashes");
        hashes.forEach(wanted::add);
        log.append(line);
        return apply(line);
    }

    /** Whether a job was taken under a key. */
    synchronized boolean knows(String key) {
        return !key.isEmpty() && byKey.containsKey(key);
    }

    synchronized void clear() {
        log.clear();
        made.forEach(one -> members.remove(one.id()));
        made.clear();
        members.values().forEach(TreeSet::clear);
        jobs.clear();
        byKey.clear();
    }

    private void replay(JsonNode line) {
        if (line.has("made")) {
            add(line);
            return;
        }
        apply(line);
    }

    private Job apply(JsonNode line) {
        String list = line.get("list").asString();
        String action = line.get("do").asString();
        TreeSet<String> on = members.get(list);
        Map<Integer, String> refusals = new TreeMap<>();
        List<String> hashes = new ArrayList<>();
        line.get("hashes").forEach(hash -> hashes.add(hash.asString()));
        for (int i = 0; i < hashes.size(); i++) {
            String hash = hashes.get(i);
            if (line.path("partial").asBoolean(false) && i % 2 == 1) {
                refusals.put(i, "the lamp went out while it was looked up");
            } else if (!hash.matches("[0-9a-f]{64}")) {
                refusals.put(i, "not a SHA-256 in lower-case hexadecimal");
            } else if (action.equals("add")) {
                on.add(hash);
            } else {
                on.remove(hash);
            }
        }
        Job job = new Job(
                "lamp-" + (jobs.size() + 1),
                list,
                action,
                Instant.parse(line.get("at").asString()),
                hashes.size(),
                refusals);
        jobs.put(job.id(), job);
        String key = line.path("key").asString("");
        if (!key.isEmpty()) {
            byKey.put(key, job.id());
        }
        return job;
    }

    @Override
    public synchronized void close() {
        log.close();
    }
}
