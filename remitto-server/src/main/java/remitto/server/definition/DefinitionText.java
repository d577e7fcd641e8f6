package remitto.server.definition;

import com.fasterxml.jackson.annotation.JsonInclude;
import com.fasterxml.jackson.annotation.JsonSetter;
import com.fasterxml.jackson.annotation.Nulls;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.springframework.stereotype.Component;
import remitto.connect.yaml.YamlPlaces;
import tools.jackson.core.JacksonException;
import tools.jackson.core.JsonGenerator;
import tools.jackson.core.StreamReadFeature;
import tools.jackson.databind.DeserializationFeature;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.MapperFeature;
import tools.jackson.databind.PropertyNamingStrategies;
import tools.jackson.databind.SerializationContext;
import tools.jackson.databind.SerializationFeature;
import tools.jackson.databind.cfg.EnumFeature;
import tools.jackson.databind.cfg.MutableConfigOverride;
import tools.jackson.databind.module.SimpleModule;
import tools.jackson.databind.node.ArrayNode;
import tools.jackson.databind.node.ObjectNode;
import tools.jackson.databind.ser.std.StdSerializer;
import tools.jackson.dataformat.yaml.YAMLFactory;
import tools.jackson.dataformat.yaml.YAMLMapper;
import tools.jackson.dataformat.yaml.YAMLWriteFeature;

/**
 * Definitions as YAML: members in the order that their records declare, in snake case; words of choices in lower case; nothing that is
 * absent, empty, or as usual. The same meaning always comes to the same bytes.
 */
@Component
class DefinitionText {
    static final String KIND = "definition";
    static final String FORMAT = "format";
    /** Changes whenever a file of before would be read otherwise. */
    static final int NOW = 1;

    private final YAMLMapper mapper = YAMLMapper.builder(YAMLFactory.builder()
                    .enable(YAMLWriteFeature.MINIMIZE_QUOTES, YAMLWriteFeature.ALWAYS_QUOTE_NUMBERS_AS_STRINGS)
                    .disable(YAMLWriteFeature.WRITE_DOC_START_MARKER, YAMLWriteFeature.SPLIT_LINES)
                    .loadSettings(YamlPlaces.settings())
                    .build())
            .propertyNamingStrategy(PropertyNamingStrategies.SNAKE_CASE)
            .disable(MapperFeature.SORT_PROPERTIES_ALPHABETICALLY)
            .enable(MapperFeature.ACCEPT_CASE_INSENSITIVE_ENUMS)
            .enable(EnumFeature.WRITE_ENUMS_TO_LOWERCASE)
            .enable(SerializationFeature.ORDER_MAP_ENTRIES_BY_KEYS)
            .enable(StreamReadFeature.STRICT_DUPLICATE_DETECTION)
            .enable(
                    DeserializationFeature.USE_BIG_DECIMAL_FOR_FLOATS,
                    DeserializationFeature.FAIL_ON_UNKNOWN_PROPERTIES)
            .changeDefaultPropertyInclusion(inclusion -> inclusion.withValueInclusion(JsonInclude.Include.NON_ABSENT))
            .withConfigOverride(List.class, DefinitionText::emptyWhereMissing)
            .withConfigOverride(Set.class, DefinitionText::emptyWhereMissing)
            .withConfigOverride(Map.class, DefinitionText::emptyWhereMissing)
            .addModule(new SimpleModule("sets in one order").addSerializer(new InOrder()))
            .build();

    private static void emptyWhereMissing(MutableConfigOverride collection) {
        collection.setNullHandling(JsonSetter.Value.forValueNulls(Nulls.AS_EMPTY));
    }

    /** Sets have no order of their own, and would be written in another with every start. */
    private static final class InOrder extends StdSerializer<Set<?>> {
        InOrder() {
            super(Set.class);
        }

        @Override
        public void serialize(Set<?> value, JsonGenerator generator, SerializationContext context)
                throws JacksonException {
            generator.writeStartArray();
            value.stream().sorted().forEach(generator::writePOJO);
            generator.writeEndArray();
        }
    }

    /** What a definition says, with what is as usual left out. */
    ObjectNode tree(DefinitionKind<?> kind, Record content) {
        ObjectNode tree = mapper.valueToTree(content);
        kind.usual().forEach((list, usual) -> tree.path(list).forEach(item -> {
            if (item instanceof ObjectNode members) {
                usual.forEach((member, value) -> {
                    if (members.path(member).asString("\n").equals(value)) {
                        members.remove(member);
                    }
                });
            }
        }));
        return (ObjectNode) withoutEmpty(tree);
    }

    private static JsonNode withoutEmpty(JsonNode node) {
        if (node instanceof ObjectNode object) {
            ObjectNode kept = object.objectNode();
            object.properties().forEach(member -> {
                if (!(member.getValue() instanceof ArrayNode items && items.isEmpty())) {
                    kept.set(member.getKey(), withoutEmpty(member.getValue()));
                }
            });
            return kept;
        }
        if (node instanceof ArrayNode array) {
            ArrayNode kept = array.arrayNode();
            array.forEach(item -> kept.add(withoutEmpty(item)));
            return kept;
        }
        return node;
    }

    /** The other way round. */
    <T extends Record> T content(DefinitionKind<T> kind, ObjectNode tree) {
        ObjectNode whole = tree.deepCopy();
        kind.usual().forEach((list, usual) -> whole.path(list).forEach(item -> {
            if (item instanceof ObjectNode members) {
                usual.forEach((member, value) -> {
                    if (!members.has(member)) {
                        members.put(member, value);
                    }
                });
            }
        }));
        return mapper.treeToValue(whole, kind.type());
    }

    /** The text of a file. */
    String write(DefinitionKind<?> kind, ObjectNode tree) {
        ObjectNode file = tree.objectNode().put(KIND, kind.kind()).put(FORMAT, NOW);
        file.setAll(tree);
        return mapper.writeValueAsString(file);
    }

    JsonNode read(String text) {
        return mapper.readTree(text);
    }
}
