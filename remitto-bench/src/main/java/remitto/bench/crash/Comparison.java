package remitto.bench.crash;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import remitto.standins.fault.Testimony;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** What the tools hold, read from their own files, against what the warehouse says they must hold. */
final class Comparison {
    private static final JsonMapper JSON = JsonMapper.builder().build();

    private final CrashRig rig;
    private final List<String> lost = new ArrayList<>();
    private final List<String> wrong = new ArrayList<>();
    private final List<String> doubled = new ArrayList<>();
    private final List<String> repeated = new ArrayList<>();

    /** By round, what the tool must hold for the piers after it. */
    private final List<Map<String, Map<String, String>>> piers = new ArrayList<>();

    Comparison(CrashRig rig) {
        this.rig = rig;
    }

    List<String> lost() {
        return lost;
    }

    List<String> wrong() {
        return wrong;
    }

    List<String> doubled() {
        return doubled;
    }

    List<String> repeated() {
        return repeated;
    }

    /**
     * Right after a round, before anything else is sent.
     *
     * @param since by tool, the last call of the round before
     */
    void afterRound(int round, Map<String, Long> since) throws SQLException {
        records("contact", "external_ref", rig.sea.contacts());
        piers.add(Sea.isUndo(round) ? piers.get(round - 2) : rig.sea.piers());
        records("company", "vat_number", piers.get(round));
        members();
        file();
        Testimony fog = testimony("foghorn").since(since.getOrDefault("foghorn", 0L));
        notices(fog);
        for (String tool : List.of("purser", "lamplight", "foghorn")) {
            Testimony told = testimony(tool).since(since.getOrDefault(tool, 0L));
            told.doubled().forEach(line -> doubled.add(tool + " received again what it had answered: " + line));
            told.repeated().forEach(line -> repeated.add(tool + " received again what it had taken: " + line));
        }
    }

    /** By tool, the last call that came in. */
    Map<String, Long> last() {
        Map<String, Long> last = new HashMap<>();
        List.of("purser", "lamplight", "foghorn")
                .forEach(tool -> last.put(tool, testimony(tool).last()));
        return last;
    }

    private Testimony testimony(String tool) {
        return Testimony.of(rig.folder.resolve(tool + ".jsonl"));
    }

    private List<JsonNode> log(String tool) {
        Path file = rig.folder.resolve(tool + ".jsonl");
        try {
            String text = Files.exists(file) ? Files.readString(file) : "";
            return text.substring(0, text.lastIndexOf('\n') + 1)
                    .lines()
                    .map(JSON::readTree)
                    .toList();
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    private void records(String object, String keyField, Map<String, Map<String, String>> wanted) {
        Map<String, Map<String, String>> byId = new HashMap<>();
        for (JsonNode call : log("purser")) {
            if (!call.get("object").asString().equals(object)) {
                continue;
            }
            for (JsonNode change : call.get("changes")) {
                String id = change.get("id").asString();
                if (change.get("op").asString().equals("remove")) {
                    byId.remove(id);
                } else {
                    Map<String, String> fields = byId.computeIfAbsent(id, fresh -> new TreeMap<>());
                    change.get("fields")
                            .properties()
                            .forEach(field ->
                                    fields.put(field.getKey(), field.getValue().asString("")));
                }
            }
        }
        Map<String, Map<String, String>> there = new TreeMap<>();
        byId.values().forEach(fields -> {
            if (there.put(fields.getOrDefault(keyField, ""), fields) != null) {
                doubled.add("two of " + object + " " + fields.get(keyField));
            }
        });
        wanted.forEach((key, fields) -> {
            if (!there.containsKey(key)) {
                lost.add(object + " " + key);
            } else {
                fields.forEach((field, value) -> {
                    String found = there.get(key).getOrDefault(field, "");
                    if (!found.equals(value)) {
                        wrong.add(object + " " + key + " has " + field + " \"" + found + "\" instead of \"" + value
                                + "\"");
                    }
                });
            }
        });
        there.keySet().stream()
                .filter(key -> !wanted.containsKey(key))
                .forEach(key -> lost.add("removal of " + object + " " + key));
    }

    private void members() throws SQLException {
        Set<String> there = new TreeSet<>();
        for (JsonNode job : log("lamplight")) {
            boolean adds = job.path("do").asString("").equals("add");
            job.path("hashes").forEach(hash -> {
                if (adds) {
                    there.add(hash.asString());
                } else {
                    there.remove(hash.asString());
                }
            });
        }
        Set<String> wanted = rig.sea.members();
        wanted.stream().filter(one -> !there.contains(one)).forEach(one -> lost.add("member " + one));
        there.stream().filter(one -> !wanted.contains(one)).forEach(one -> lost.add("removal of member " + one));
    }

    private void file() throws SQLException {
        Map<String, String> wanted = new TreeMap<>();
        rig.sea
                .contacts()
                .forEach((key, fields) -> wanted.put(key, fields.get("given_name") + ";" + fields.get("home_port")));
        Map<String, String> there = new TreeMap<>();
        for (String line : newestFile()) {
            String[] cells = line.split(";", 2);
            if (there.put(cells[0], cells[1]) != null) {
                doubled.add("two rows " + cells[0] + " in the file");
            }
        }
        wanted.forEach((key, cells) -> {
            if (!there.containsKey(key)) {
                lost.add("row " + key + " of the file");
            } else if (!there.get(key).equals(cells)) {
                wrong.add("row " + key + " of the file is " + there.get(key) + " instead of " + cells);
            }
        });
        there.keySet().stream()
                .filter(key -> !wanted.containsKey(key))
                .forEach(key -> lost.add("removal of row " + key));
    }

    /** The last one by number of its run, which its name ends with. */
    private List<String> newestFile() {
        try (var files = Files.walk(rig.folder.resolve("outbox"))) {
            List<Path> csv =
                    files.filter(path -> path.toString().endsWith(".csv")).toList();
            Path newest = csv.stream()
                    .max(java.util.Comparator.comparingLong(Comparison::run))
                    .orElseThrow(() -> new IllegalStateException("no file was handed over"));
            List<String> lines = Files.readAllLines(newest);
            return lines.subList(1, lines.size());
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    private static long run(Path file) {
        return Long.parseLong(file.getFileName().toString().replaceAll("^.*-(\\d+)\\.csv$", "$1"));
    }

    /**
     * A message whose outcome nobody knows is held for a person, and never sent again. Whoever heard no answer has it held, and nothing
     * is held that the tool says it answered before anything befell it.
     */
    private void notices(Testimony round) throws SQLException {
        Map<String, Integer> there = new HashMap<>();
        log("foghorn").forEach(message -> there.merge(message.get("text").asString(), 1, Integer::sum));
        Set<String> unknown = unknown();
        rig.sea.notices().forEach((key, words) -> {
            int times = there.getOrDefault(words, 0);
            if (times == 0 && !unknown.contains(key)) {
                lost.add("message " + key);
            } else if (times > 1) {
                doubled.add("message " + key + ", " + times + " times");
            }
        });
        Map<String, String> keys = new HashMap<>();
        rig.sea.notices().forEach((key, words) -> keys.put(words, key));
        Set<String> doubt = new HashSet<>();
        round.inDoubt().forEach(line -> doubt.add(keys.getOrDefault(line.substring(line.indexOf(' ') + 1), line)));
        doubt.stream()
                .filter(key -> !unknown.contains(key))
                .forEach(key -> wrong.add("message " + key + " got no answer, and is not held as unknown"));
    }

    /** Keys of the messages that the product holds because it does not know what became of them. */
    private Set<String> unknown() {
        Set<String> unknown = new HashSet<>();
        long next = 0;
        do {
            long after = next;
            JsonNode page = rig.tryToAsk(api -> api.get("/api/held/records?routeId=" + rig.routes.notices()
                            + "&code=outcome-unknown&after=" + after))
                    .orElseThrow(() -> new IllegalStateException("no server answers"));
            page.get("records").forEach(one -> unknown.add(one.get("key").asString()));
            next = page.path("next").asLong(0);
        } while (next > 0);
        return unknown;
    }
}
