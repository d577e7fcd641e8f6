package remitto.connect.rowfile;

import java.io.IOException;
import java.io.Reader;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;
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
 * Objects of JSON (RFC 8259) as rows. An object within is columns of its own, with a full stop between the names; an array is kept as
 * JSON. A name that is there twice makes an object malformed (section 4 leaves it open what it means).
 */
abstract class JsonFile implements RowFile {
    private static final int DEEPEST = 64;
    private static final int FLATTENED = 5;
    private static final int KEPT = 100_000;

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

    final Reader in;
    private final Map<String, Integer> wanted = new HashMap<>();
    private final @Nullable String[] cells;
    private final Set<String> others = new LinkedHashSet<>();
    private String text = "";

    JsonFile(Reader in, List<String> wanted) {
        this.in = in;
        for (String name : wanted) {
            this.wanted.putIfAbsent(name, this.wanted.size());
        }
        this.cells = new String[wanted.size()];
    }

    FileRecord malformed(long line, String problem, String shown) {
        text = cut(shown);
        return new FileRecord(line, cells, problem, text);
    }

    FileRecord record(long line, JsonNode object) {
        java.util.Arrays.fill(cells, null);
        Map<String, String> values = flat(object);
        values.forEach((name, value) -> {
            Integer at = wanted.get(name);
            if (at != null) {
                cells[at] = value;
            } else if (others.size() < 100) {
                others.add(name);
            }
        });
        text = cut(object.toString());
        return new FileRecord(line, cells, "", "");
    }

    static String cut(String shown) {
        return shown.length() > KEPT ? shown.substring(0, KEPT) : shown;
    }

    /**
     * Reads a text that is one value and nothing else.
     *
     * @throws JacksonException if it is not
     */
    static JsonNode one(String text) {
        try (JsonParser parser = JSON.createParser(text)) {
            JsonNode node = parser.readValueAsTree();
            if (parser.nextToken() != null) {
                throw new StreamReadException(parser, "something follows the value");
            }
            return node == null ? JSON.missingNode() : node;
        }
    }

    /** What is wrong with a text as JSON, in words. */
    static String words(JacksonException e) {
        return "The row is not JSON: " + String.valueOf(e.getOriginalMessage()).replaceAll("\\s+", " ") + ".";
    }

    /** Values by name, as text; without those that are null. */
    static Map<String, String> flat(JsonNode object) {
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

    @Override
    public String text() {
        return text;
    }

    @Override
    public List<String> others() {
        return new ArrayList<>(others);
    }

    @Override
    public abstract @Nullable FileRecord next() throws IOException;
}
