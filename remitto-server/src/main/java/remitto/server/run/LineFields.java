package remitto.server.run;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import remitto.core.destination.Fit;
import remitto.core.destination.ObjectDescription;
import remitto.core.manifest.FieldDecision;
import remitto.core.manifest.FieldOutcome;
import remitto.core.value.JsonForm;
import remitto.core.value.Value;
import remitto.server.platform.Json;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.ArrayNode;
import tools.jackson.databind.node.ObjectNode;

/** The fields of a line as JSON: a value that is missing has no entry, an empty one is null. */
final class LineFields {
    private final Json json;

    LineFields(Json json) {
        this.json = json;
    }

    String write(List<FieldDecision> fields) {
        var list = json.mapper().createArrayNode();
        for (FieldDecision field : fields) {
            ObjectNode node = list.addObject();
            node.put("field", field.field());
            node.put("outcome", field.outcome().name());
            put(node, "old", field.old());
            put(node, "fresh", field.fresh());
            node.put("reason", field.reason());
        }
        return list.toString();
    }

    List<FieldDecision> read(String text, ObjectDescription object) {
        List<FieldDecision> fields = new ArrayList<>();
        for (JsonNode node : json.tree(text)) {
            String name = node.get("field").asString();
            fields.add(new FieldDecision(
                    name,
                    FieldOutcome.valueOf(node.get("outcome").asString()),
                    value(node, "old", name, object),
                    value(node, "fresh", name, object),
                    node.get("reason").asString()));
        }
        return fields;
    }

    /** For showing: texts as people read them. */
    List<LineView.FieldView> view(String text) {
        List<LineView.FieldView> fields = new ArrayList<>();
        for (JsonNode node : json.tree(text)) {
            fields.add(new LineView.FieldView(
                    node.get("field").asString(),
                    FieldOutcome.valueOf(node.get("outcome").asString()),
                    shown(node, "old"),
                    shown(node, "fresh"),
                    node.get("reason").asString()));
        }
        return fields;
    }

    Value read(JsonNode node, String field, ObjectDescription object) {
        Optional<Object> plain =
                node.isNull() ? Optional.empty() : Optional.of(json.mapper().treeToValue(node, Object.class));
        return object.field(field).map(known -> Fit.read(known, plain)).orElseGet(() -> JsonForm.read(plain));
    }

    void put(ObjectNode node, String name, Value value) {
        if (!(value instanceof Value.Missing)) {
            node.set(
                    name,
                    JsonForm.write(value)
                            .<JsonNode>map(plain -> json.mapper().valueToTree(plain))
                            .orElse(json.mapper().nullNode()));
        }
    }

    /** Adds a value to a list; missing and empty are both null there. */
    ArrayNode add(ArrayNode list, Value value) {
        return list.add(JsonForm.write(value)
                .<JsonNode>map(plain -> json.mapper().valueToTree(plain))
                .orElse(json.mapper().nullNode()));
    }

    private Value value(JsonNode node, String name, String field, ObjectDescription object) {
        return node.has(name) ? read(node.get(name), field, object) : Value.MISSING;
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
