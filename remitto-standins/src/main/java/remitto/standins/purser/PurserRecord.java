package remitto.standins.purser;

import java.time.Instant;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import tools.jackson.databind.JsonNode;

/** A stored record: per field the value, when it was last written and by which client. */
final class PurserRecord {

    record Stamped(JsonNode value, Instant at, String client) {}

    private final String id;
    private final Map<String, Stamped> fields = new LinkedHashMap<>();
    private long revision;
    private Instant changedAt = Instant.EPOCH;

    PurserRecord(String id) {
        this.id = id;
    }

    String id() {
        return id;
    }

    long revision() {
        return revision;
    }

    Instant changedAt() {
        return changedAt;
    }

    Map<String, Stamped> fields() {
        return fields;
    }

    Optional<JsonNode> value(String field) {
        return Optional.ofNullable(fields.get(field)).map(Stamped::value).filter(value -> !value.isNull());
    }

    String text(String field) {
        return value(field).map(PurserRecord::shown).orElse("");
    }

    private static String shown(JsonNode value) {
        return value.isArray()
                ? value.valueStream().map(JsonNode::asString).collect(Collectors.joining(", "))
                : value.asString();
    }

    void write(Map<String, JsonNode> values, Instant at, String client) {
        values.forEach((field, value) -> fields.put(field, new Stamped(value, at, client)));
        revision++;
        changedAt = at;
    }
}
