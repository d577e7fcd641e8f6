package remitto.connect.profile;

import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.util.Map;
import remitto.core.value.JsonForm;
import remitto.core.value.Value;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.ObjectMapper;

/** Fills the bodies and paths of a profile. */
final class Template {
    private final ObjectMapper json;

    Template(ObjectMapper json) {
        this.json = json;
    }

    /** The body with every text that is exactly {@code "{name}"} replaced by what the name stands for. */
    JsonNode fill(JsonNode node, Map<String, JsonNode> named) {
        if (node.isString()) {
            String text = node.asString();
            return text.startsWith("{") && text.endsWith("}")
                    ? named.getOrDefault(text.substring(1, text.length() - 1), node)
                    : node;
        }
        if (node.isObject()) {
            var out = json.createObjectNode();
            node.properties().forEach(entry -> out.set(entry.getKey(), fill(entry.getValue(), named)));
            return out;
        }
        if (node.isArray()) {
            var out = json.createArrayNode();
            node.forEach(item -> out.add(fill(item, named)));
            return out;
        }
        return node;
    }

    static String path(String path, Map<String, String> named) {
        String filled = path;
        for (var entry : named.entrySet()) {
            filled = filled.replace(
                    "{" + entry.getKey() + "}", URLEncoder.encode(entry.getValue(), StandardCharsets.UTF_8));
        }
        return filled;
    }

    JsonNode text(String text) {
        return json.getNodeFactory().stringNode(text);
    }

    JsonNode value(Value value) {
        var nodes = json.getNodeFactory();
        if (value instanceof Value.Text text) {
            return nodes.stringNode(text.text());
        }
        if (value instanceof Value.Decimal decimal) {
            return nodes.numberNode(decimal.number());
        }
        return JsonForm.write(value)
                .<JsonNode>map(json::valueToTree)
                .orElse(json.getNodeFactory().nullNode());
    }
}
