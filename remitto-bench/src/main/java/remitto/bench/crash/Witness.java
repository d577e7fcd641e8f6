package remitto.bench.crash;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** The stand-in's write log, read as a witness: what took effect there, whatever anybody believes. */
final class Witness {
    private static final JsonMapper JSON = JsonMapper.builder().build();
    private final Path log;

    Witness(Path log) {
        this.log = log;
    }

    int length() {
        return lines().size();
    }

    private List<String> lines() {
        try {
            return Files.exists(log) ? Files.readAllLines(log) : List.of();
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    /** Every record of an object as the log leaves it, by its key field; fields by name. */
    Map<String, Map<String, String>> records(String object, String keyField) {
        Map<String, Map<String, String>> byId = new HashMap<>();
        for (String line : lines()) {
            JsonNode call = read(line);
            if (call.get("object").asString().equals(object)) {
                for (JsonNode change : call.get("changes")) {
                    String id = change.get("id").asString();
                    if (change.get("op").asString().equals("remove")) {
                        byId.remove(id);
                    } else {
                        Map<String, String> fields = byId.computeIfAbsent(id, fresh -> new TreeMap<>());
                        change.get("fields")
                                .properties()
                                .forEach(entry -> fields.put(
                                        entry.getKey(), entry.getValue().asString("")));
                    }
                }
            }
        }
        Map<String, Map<String, String>> byKey = new TreeMap<>();
        byId.forEach((id, fields) -> byKey.put(
                byKey.containsKey(fields.getOrDefault(keyField, ""))
                        ? "doubled " + id
                        : fields.getOrDefault(keyField, ""),
                fields));
        return byKey;
    }

    /**
     * Writes with effect beyond the first, for one record and the same change, from a line of the log on: one manifest
     * writes a record once.
     */
    int doubled(int from) {
        Set<String> once = new HashSet<>();
        int doubled = 0;
        List<String> lines = lines();
        for (String line : lines.subList(Math.min(from, lines.size()), lines.size())) {
            JsonNode call = read(line);
            for (JsonNode change : call.get("changes")) {
                if (!once.add(change.get("op").asString() + change.get("id").asString() + change.get("fields"))) {
                    doubled++;
                }
            }
        }
        return doubled;
    }

    /** The last line may be half written when the stand-in was killed; it did not take effect then. */
    private static JsonNode read(String line) {
        return JSON.readTree(line);
    }
}
