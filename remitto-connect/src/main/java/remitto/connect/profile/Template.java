package remitto.connect.profile;

import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.util.Map;
import remitto.core.value.JsonForm;
import remitto.core.value.Value;
import tools.jackson.core.JsonGenerator;
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

    /** Writes what a name stands for; false when it stands for nothing. */
    interface Names {
        boolean write(String name, JsonGenerator out);
    }

    /** Writes a body as it is filled, without a tree of it: bodies hold hundreds of records. */
    static void write(JsonNode node, Names names, JsonGenerator out) {
        if (node.isString()) {
            String text = node.asString();
            boolean named = text.length() > 2 && text.startsWith("{") && text.endsWith("}");
            if (!named || !names.write(text.substring(1, text.length() - 1), out)) {
                out.writeString(text);
            }
        } else if (node.isObject()) {
            out.writeStartObject();
            node.properties().forEach(entry -> {
                out.writeName(entry.getKey());
                write(entry.getValue(), names, out);
            });
            out.writeEndObject();
        } else if (node.isArray()) {
            out.writeStartArray();
            node.forEach(item -> write(item, names, out));
            out.writeEndArray();
        } else {
            out.writePOJO(node);
        }
    }

    static void write(Value value, JsonGenerator out) {
        if (value instanceof Value.Text text) {
            out.writeString(text.text());
        } else if (value instanceof Value.Decimal decimal) {
            out.writeNumber(decimal.number());
        } else if (value instanceof Value.Truth truth) {
            out.writeBoolean(truth.truth());
        } else {
            JsonForm.write(value).ifPresentOrElse(out::writePOJO, out::writeNull);
        }
    }

    static String path(String path, Map<String, String> named) {
        String filled = path;
        for (var entry : named.entrySet()) {
            filled = filled.replace(
                    "{" + entry.getKey() + "}", URLEncoder.encode(entry.getValue(), StandardCharsets.UTF_8));
        }
        return filled;
    }

    /** A path, an address or a header with every {@code {setting.name}} replaced by that connection setting. */
    static String settings(String text, Map<String, String> settings) {
        String filled = text;
        for (var entry : settings.entrySet()) {
            filled = filled.replace("{setting." + entry.getKey() + "}", entry.getValue());
        }
        return filled;
    }

    JsonNode text(String text) {
        return json.getNodeFactory().stringNode(text);
    }
}
