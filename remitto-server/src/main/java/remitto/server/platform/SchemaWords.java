package remitto.server.platform;

import io.swagger.v3.oas.models.OpenAPI;
import io.swagger.v3.oas.models.Operation;
import io.swagger.v3.oas.models.media.Schema;
import io.swagger.v3.oas.models.parameters.Parameter;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.regex.Pattern;

/**
 * Finishes the descriptions that the OpenAPI document takes from what is written above controllers and records: plain text instead of
 * markup, and a description of every part of a path from the path itself.
 */
final class SchemaWords {
    private static final Map<String, String> SINGULAR =
            Map.of("people", "person", "all", "session", "book", "field", "retention", "kind");

    /** A link with its label, or without. */
    private static final Pattern LINK = Pattern.compile("\\{@link (?:[^ }]* )?[^ }]*?(\\w+)\\}");

    private static final Map<String, String> NOT_OURS =
            Map.of("SseEmitter", "A stream of server-sent events (text/event-stream).");

    private SchemaWords() {}

    /** @param others words of schemas that have none, by name */
    static void give(OpenAPI document, Map<String, String> others) {
        Optional.ofNullable(document.getTags())
                .ifPresent(tags -> tags.forEach(tag -> tag.setDescription(plain(tag.getDescription()))));
        document.getPaths()
                .forEach((path, item) -> item.readOperations().forEach(operation -> operation(path, operation)));
        document.getComponents().getSchemas().forEach((name, schema) -> {
            if (schema.getDescription() == null) {
                schema.setDescription(NOT_OURS.getOrDefault(name, others.get(name)));
            }
            schema(schema);
        });
    }

    private static void operation(String path, Operation operation) {
        operation.setDescription(plain(operation.getDescription()));
        // The first sentence alone, which the description begins with.
        operation.setSummary(null);
        for (Parameter one : Optional.ofNullable(operation.getParameters()).orElse(List.of())) {
            String words = plain(one.getDescription());
            one.setDescription(words == null && "path".equals(one.getIn()) ? ofPath(path, one) : words);
        }
    }

    private static String ofPath(String path, Parameter part) {
        String name = part.getName();
        String before = path.substring(0, path.indexOf("/{" + name + "}"));
        String segment = before.substring(before.lastIndexOf('/') + 1);
        String noun = name.endsWith("Id") ? name.substring(0, name.length() - 2) : singular(segment);
        boolean isNumber = part.getSchema().getTypes() != null
                && part.getSchema().getTypes().contains("integer");
        return (isNumber ? "Number of the " : "Name of the ") + noun.replace('-', ' ') + ".";
    }

    private static String singular(String segment) {
        String known = SINGULAR.get(segment);
        return known != null ? known : segment.endsWith("s") ? segment.substring(0, segment.length() - 1) : segment;
    }

    private static void schema(Schema<?> schema) {
        schema.setDescription(plain(schema.getDescription()));
        if (schema.getProperties() != null) {
            schema.getProperties().values().forEach(one -> one.setDescription(plain(one.getDescription())));
        }
    }

    private static String plain(String words) {
        return words == null || words.isBlank()
                ? null
                : LINK.matcher(words)
                        .replaceAll("$1")
                        .replaceAll("</?[a-z]+>", "")
                        .replace("&lt;", "<")
                        .replace("&gt;", ">")
                        .replace("&amp;", "&")
                        .replaceAll("\\s+", " ")
                        .strip();
    }
}
