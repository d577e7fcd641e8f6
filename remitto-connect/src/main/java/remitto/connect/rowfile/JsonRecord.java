package remitto.connect.rowfile;

import java.util.LinkedHashMap;
import java.util.Map;
import tools.jackson.core.JacksonException;
import tools.jackson.core.JsonParser;
import tools.jackson.core.StreamReadConstraints;
import tools.jackson.core.StreamReadFeature;
import tools.jackson.core.exc.StreamReadException;
import tools.jackson.core.json.JsonFactory;
import tools.jackson.databind.DeserializationFeature;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/**
 * Texts of JSON (RFC 8259) and the values in them. A name that is there twice makes an object malformed (section 4 leaves it open what
 * it means).
 */
public final class JsonRecord {
    private static final int DEEPEST = 64;
    private static final int FLATTENED = 5;

    private JsonRecord() {}

    static final JsonMapper JSON = JsonMapper.builder(JsonFactory.builder()
                    .streamReadConstraints(StreamReadConstraints.builder()
                            .maxNestingDepth(DEEPEST)
                            .maxStringLength(remitto.core.fileset.DelimitedText.LONGEST_CELL)
                            .maxNumberLength(1_000)
                            .build())
                    .enable(StreamReadFeature.STRICT_DUPLICATE_DETECTION)
                    .build())
            .enable(DeserializationFeature.USE_BIG_DECIMAL_FOR_FLOATS)
            .disable(DeserializationFeature.FAIL_ON_TRAILING_TOKENS)
            .build();

    /**
     * Reads a text that is one value and nothing else.
     *
     * @throws JacksonException if it is not
     */
    public static JsonNode one(String text) {
        try (JsonParser parser = JSON.createParser(text)) {
            JsonNode node = parser.readValueAsTree();
            if (parser.nextToken() != null) {
                throw new StreamReadException(parser, "something follows the value");
            }
            return node == null ? JSON.missingNode() : node;
        }
    }

    /** What is wrong with a text as JSON, in words. */
    public static String words(JacksonException e) {
        return "The row is not JSON: " + String.valueOf(e.getOriginalMessage()).replaceAll("\\s+", " ") + ".";
    }

    /** Values by name, as text; without those that are null. */
    public static Map<String, String> flat(JsonNode object) {
        Map<String, String> values = new LinkedHashMap<>();
        flatten("", object, 1, values);
        return values;
    }

    private static void flatten(String before, JsonNode object, int depth, Map<String, String> values) {
        object.properties().forEach(property -> {
            String name = before + property.getKey();
            JsonNode value = property.getValue();
            if (value.isObject() && !value.isEmpty() && depth < FLATTENED) {
                flatten(name + ".", value, depth + 1, values);
            } else if (value.isString()) {
                values.put(name, value.stringValue());
            } else if (!value.isNull()) {
                values.put(name, value.toString());
            }
        });
    }
}
