package remitto.connect.profile;

import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.util.Map;
import java.util.Optional;
import java.util.function.UnaryOperator;
import java.util.regex.Matcher;
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

    /** What names stand for. */
    interface Names {
        /** False for a name that stands for nothing: such a text is left as it is. */
        boolean knows(String name);

        /** False for a field that the record does not write. */
        boolean has(String name);

        void write(String name, JsonGenerator out);

        /** The same within a longer text. */
        String text(String name);
    }

    /** The name that a text consists of alone. */
    static Optional<String> named(String text) {
        boolean braces = text.length() > 2 && text.charAt(0) == '{' && text.charAt(text.length() - 1) == '}';
        return braces && Placeholders.NAMED.matcher(text).matches()
                ? Optional.of(text.substring(1, text.length() - 1))
                : Optional.empty();
    }

    /** A text with every {@code {name}} replaced. */
    static String text(String text, UnaryOperator<String> names) {
        return text.indexOf('{') < 0
                ? text
                : Placeholders.NAMED
                        .matcher(text)
                        .replaceAll(found -> Matcher.quoteReplacement(names.apply(found.group(1))));
    }

    /**
     * Writes a body as it is filled, without a tree of it: bodies hold hundreds of records. A property or an item that is
     * exactly a field which the record does not write is left out.
     */
    static void write(JsonNode node, Names names, JsonGenerator out) {
        if (node.isString()) {
            named(node.asString())
                    .filter(names::knows)
                    .ifPresentOrElse(
                            name -> names.write(name, out), () -> out.writeString(text(node.asString(), names::text)));
        } else if (node.isObject()) {
            out.writeStartObject();
            node.properties().forEach(entry -> {
                if (has(entry.getValue(), names)) {
                    out.writeName(entry.getKey());
                    write(entry.getValue(), names, out);
                }
            });
            out.writeEndObject();
        } else if (node.isArray()) {
            out.writeStartArray();
            node.forEach(item -> {
                if (has(item, names)) {
                    write(item, names, out);
                }
            });
            out.writeEndArray();
        } else {
            out.writePOJO(node);
        }
    }

    private static boolean has(JsonNode node, Names names) {
        return !node.isString()
                || named(node.asString())
                        .filter(names::knows)
                        .filter(name -> !names.has(name))
                        .isEmpty();
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
                    "{" + entry.getKey() + "}",
                    URLEncoder.encode(entry.getValue(), StandardCharsets.UTF_8).replace("+", "%20"));
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
