package remitto.server.manifest;

import java.io.StringWriter;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.stream.Collectors;
import remitto.core.destination.Field;
import remitto.core.destination.Fit;
import remitto.core.destination.ObjectDescription;
import remitto.core.manifest.FieldDecision;
import remitto.core.manifest.FieldOutcome;
import remitto.core.value.JsonForm;
import remitto.core.value.Value;
import remitto.server.platform.Json;
import tools.jackson.core.JsonGenerator;
import tools.jackson.core.JsonParser;
import tools.jackson.core.JsonToken;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.ArrayNode;

/** The fields of a line as JSON: a value that is missing has no entry, an empty one is null. */
public final class LineFields {
    private final Json json;

    public LineFields(Json json) {
        this.json = json;
    }

    public String write(List<FieldDecision> fields) {
        StringWriter text = new StringWriter();
        try (JsonGenerator out = json.mapper().createGenerator(text)) {
            out.writeStartArray();
            for (FieldDecision field : fields) {
                out.writeStartObject();
                out.writeStringProperty("field", field.field());
                out.writeStringProperty("outcome", field.outcome().name());
                property("old", field.old(), out);
                property("fresh", field.fresh(), out);
                out.writeStringProperty("reason", field.reason());
                if (field.until().isPresent()) {
                    out.writeStringProperty("until", field.until().get().toString());
                }
                if (field.mark() != 0) {
                    out.writeNumberProperty("mark", field.mark());
                }
                if (!field.otherRoute().isEmpty()) {
                    out.writeStringProperty("otherRoute", field.otherRoute());
                }
                out.writeEndObject();
            }
            out.writeEndArray();
        }
        return text.toString();
    }

    /** Values by field, as they are sent and known. */
    public String write(Map<String, Value> values) {
        StringWriter text = new StringWriter();
        try (JsonGenerator out = json.mapper().createGenerator(text)) {
            out.writeStartObject();
            values.forEach((field, value) -> {
                out.writeName(field);
                write(value, out);
            });
            out.writeEndObject();
        }
        return text.toString();
    }

    /** The fingerprints of columns that the written fields were let through by. */
    static String marks(List<FieldDecision> fields) {
        return fields.stream()
                .filter(field -> field.outcome() == FieldOutcome.WRITTEN && field.mark() != 0)
                .map(field -> "\"" + field.field() + "\":" + field.mark())
                .collect(Collectors.joining(",", "{", "}"));
    }

    private static void property(String name, Value value, JsonGenerator out) {
        if (!(value instanceof Value.Missing)) {
            out.writeName(name);
            write(value, out);
        }
    }

    /** A value as it is kept; missing and empty are both null. */
    public static void write(Value value, JsonGenerator out) {
        if (value instanceof Value.Text text) {
            out.writeString(text.text());
        } else if (value instanceof Value.Decimal decimal) {
            out.writeNumber(decimal.number());
        } else {
            JsonForm.write(value).ifPresentOrElse(out::writePOJO, out::writeNull);
        }
    }

    /** Read as a stream: lines are read by the million, and a tree of each would cost more than sending it. */
    public List<FieldDecision> read(String text, Map<String, Field> described) {
        List<FieldDecision> fields = new ArrayList<>();
        try (JsonParser in = json.mapper().createParser(text)) {
            in.nextToken();
            while (in.nextToken() == JsonToken.START_OBJECT) {
                fields.add(one(in, described));
            }
        }
        return fields;
    }

    /** Written values, by field in the order they are kept in. */
    Map<String, Value> readWritten(String text, Map<String, Field> described) {
        Map<String, Value> values = new LinkedHashMap<>();
        try (JsonParser in = json.mapper().createParser(text)) {
            in.nextToken();
            while (in.nextToken() == JsonToken.PROPERTY_NAME) {
                String name = in.currentName();
                in.nextToken();
                values.put(name, value(Optional.ofNullable(described.get(name)), plain(in)));
            }
        }
        return values;
    }

    /** One of the written values; the others are passed over. */
    Optional<Value> readWritten(String text, String wanted, Map<String, Field> described) {
        try (JsonParser in = json.mapper().createParser(text)) {
            in.nextToken();
            while (in.nextToken() == JsonToken.PROPERTY_NAME) {
                boolean found = in.currentName().equals(wanted);
                in.nextToken();
                if (found) {
                    return Optional.of(value(Optional.ofNullable(described.get(wanted)), plain(in)));
                }
                in.skipChildren();
            }
        }
        return Optional.empty();
    }

    /** Written values as decisions that say no more than that, and are read when they are asked for. */
    public KeptFields kept(String text, Map<String, Field> described) {
        return new KeptFields(this, text, described);
    }

    private static FieldDecision one(JsonParser in, Map<String, Field> described) {
        String name = "";
        String outcome = "";
        String reason = "";
        Optional<Instant> until = Optional.empty();
        long mark = 0;
        String otherRoute = "";
        Optional<Object> old = Optional.empty();
        Optional<Object> fresh = Optional.empty();
        boolean hasOld = false;
        boolean hasFresh = false;
        while (in.nextToken() == JsonToken.PROPERTY_NAME) {
            String property = in.currentName();
            in.nextToken();
            switch (property) {
                case "field" -> name = in.getString();
                case "outcome" -> outcome = in.getString();
                case "reason" -> reason = in.getString();
                case "until" -> until = Optional.of(Instant.parse(in.getString()));
                case "mark" -> mark = in.getLongValue();
                case "otherRoute" -> otherRoute = in.getString();
                case "old" -> {
                    hasOld = true;
                    old = plain(in);
                }
                case "fresh" -> {
                    hasFresh = true;
                    fresh = plain(in);
                }
                default -> in.skipChildren();
            }
        }
        Optional<Field> field = Optional.ofNullable(described.get(name));
        return new FieldDecision(
                name,
                FieldOutcome.valueOf(outcome),
                hasOld ? value(field, old) : Value.MISSING,
                hasFresh ? value(field, fresh) : Value.MISSING,
                reason,
                until,
                mark,
                otherRoute);
    }

    private static Optional<Object> plain(JsonParser in) {
        return switch (in.currentToken()) {
            case VALUE_STRING -> Optional.of(in.getString());
            case VALUE_TRUE -> Optional.of(true);
            case VALUE_FALSE -> Optional.of(false);
            case VALUE_NUMBER_INT, VALUE_NUMBER_FLOAT -> Optional.of(in.getDecimalValue());
            case START_ARRAY -> Optional.of(items(in));
            case START_OBJECT -> Optional.of(parts(in));
            default -> Optional.empty();
        };
    }

    private static List<Object> items(JsonParser in) {
        List<Object> items = new ArrayList<>();
        while (in.nextToken() != JsonToken.END_ARRAY) {
            plain(in).ifPresent(items::add);
        }
        return items;
    }

    private static Map<String, Object> parts(JsonParser in) {
        Map<String, Object> parts = new TreeMap<>();
        while (in.nextToken() == JsonToken.PROPERTY_NAME) {
            String name = in.currentName();
            in.nextToken();
            parts.put(name, plain(in).orElse(null));
        }
        return parts;
    }

    private static Value value(Optional<Field> field, Optional<Object> plain) {
        return field.map(known -> Fit.read(known, plain)).orElseGet(() -> JsonForm.read(plain));
    }

    /** The fields of an object by name. */
    public static Map<String, Field> byName(ObjectDescription object) {
        Map<String, Field> byName = new HashMap<>();
        object.fields().forEach(field -> byName.put(field.name(), field));
        return byName;
    }

    /** For showing: texts as people read them. */
    public List<LineView.FieldView> view(String text) {
        List<LineView.FieldView> fields = new ArrayList<>();
        for (JsonNode node : json.tree(text)) {
            fields.add(new LineView.FieldView(
                    node.get("field").asString(),
                    FieldOutcome.valueOf(node.get("outcome").asString()),
                    shown(node, "old"),
                    shown(node, "fresh"),
                    node.get("reason").asString(),
                    node.path("otherRoute").asString("")));
        }
        return fields;
    }

    public Value read(JsonNode node, String field, ObjectDescription object) {
        Optional<Object> plain =
                node.isNull() ? Optional.empty() : Optional.of(json.mapper().treeToValue(node, Object.class));
        return object.field(field).map(known -> Fit.read(known, plain)).orElseGet(() -> JsonForm.read(plain));
    }

    /** Adds a value to a list; missing and empty are both null there. */
    public ArrayNode add(ArrayNode list, Value value) {
        return list.add(JsonForm.write(value)
                .<JsonNode>map(plain -> json.mapper().valueToTree(plain))
                .orElse(json.mapper().nullNode()));
    }

    private Optional<String> shown(JsonNode node, String name) {
        return node.has(name)
                ? Optional.of(JsonForm.read(
                                node.get(name).isNull()
                                        ? Optional.empty()
                                        : Optional.of(json.mapper().treeToValue(node.get(name), Object.class)))
                        .display())
                : Optional.empty();
    }
}
