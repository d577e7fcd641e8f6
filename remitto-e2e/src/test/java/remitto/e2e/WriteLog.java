package remitto.e2e;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** Purser's write log, read as a witness: what took effect there, whatever anybody believes. */
final class WriteLog {
    private static final JsonMapper JSON = JsonMapper.builder().build();
    private final Path file;

    WriteLog(Path folder) {
        this.file = folder.resolve("purser.jsonl");
    }

    /** What is being written at this moment has no end of line yet, and is not there. */
    private List<String> wholeLines() throws IOException {
        String text = Files.readString(file);
        return text.substring(0, text.lastIndexOf('\n') + 1).lines().toList();
    }

    /** Writes with effect per record id and kind (add, write, remove), by clients that are no people at the desk. */
    Map<String, Integer> effects(String object) {
        Map<String, Integer> effects = new HashMap<>();
        try {
            for (String line : wholeLines()) {
                JsonNode call = JSON.readTree(line);
                if (call.get("object").asString().equals(object)
                        && !call.get("client").asString().startsWith("desk:")) {
                    for (JsonNode change : call.get("changes")) {
                        effects.merge(
                                change.get("op").asString() + " "
                                        + change.get("id").asString(),
                                1,
                                Integer::sum);
                    }
                }
            }
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
        return effects;
    }

    /** Keys of the records that are there, as the log leaves it. */
    List<String> present(String object, String keyField) {
        Map<String, String> keys = new HashMap<>();
        try {
            for (String line : wholeLines()) {
                JsonNode call = JSON.readTree(line);
                if (call.get("object").asString().equals(object)) {
                    for (JsonNode change : call.get("changes")) {
                        String id = change.get("id").asString();
                        if (change.get("op").asString().equals("remove")) {
                            keys.remove(id);
                        } else if (change.get("fields").has(keyField)) {
                            keys.put(id, change.get("fields").get(keyField).asString());
                        }
                    }
                }
            }
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
        return List.copyOf(keys.values());
    }

    /** The value of a field by external reference, as the log leaves it. */
    Map<String, String> finalValues(String object, String keyField, String field) {
        Map<String, String> values = new HashMap<>();
        records(object)
                .values()
                .forEach(record -> values.put(record.getOrDefault(keyField, ""), record.getOrDefault(field, "")));
        return values;
    }

    /** By id, every field of every record, as the log leaves it. */
    Map<String, Map<String, String>> records(String object) {
        Map<String, Map<String, String>> records = new HashMap<>();
        try {
            for (String line : wholeLines()) {
                JsonNode call = JSON.readTree(line);
                if (call.get("object").asString().equals(object)) {
                    for (JsonNode change : call.get("changes")) {
                        if (change.get("op").asString().equals("remove")) {
                            records.remove(change.get("id").asString());
                            continue;
                        }
                        var record = records.computeIfAbsent(change.get("id").asString(), id -> new HashMap<>());
                        change.get("fields")
                                .properties()
                                .forEach(entry -> record.put(
                                        entry.getKey(), entry.getValue().asString("")));
                    }
                }
            }
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
        return records;
    }
}
