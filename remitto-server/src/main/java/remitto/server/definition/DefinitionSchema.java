package remitto.server.definition;

import com.fasterxml.jackson.annotation.JsonSubTypes;
import com.fasterxml.jackson.annotation.JsonTypeInfo;
import com.github.therapi.runtimejavadoc.CommentFormatter;
import com.github.therapi.runtimejavadoc.RuntimeJavadoc;
import java.lang.reflect.ParameterizedType;
import java.lang.reflect.RecordComponent;
import java.lang.reflect.Type;
import java.math.BigDecimal;
import java.util.Arrays;
import java.util.Collection;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.Set;
import java.util.TreeMap;
import org.springframework.stereotype.Component;
import tools.jackson.databind.node.ArrayNode;
import tools.jackson.databind.node.JsonNodeFactory;
import tools.jackson.databind.node.ObjectNode;

/**
 * The JSON Schema (draft 2020-12) of files of definitions, put together from the records that they are read into: what these do not know
 * is not allowed, what they need is required.
 */
@Component
class DefinitionSchema {
    private static final String DRAFT = "https://json-schema.org/draft/2020-12/schema";
    private static final CommentFormatter WORDS = new CommentFormatter();

    private final List<DefinitionKind<?>> kinds;

    DefinitionSchema(List<DefinitionKind<?>> kinds) {
        this.kinds = List.copyOf(kinds);
    }

    /** Of every kind: which one a file is of stands in its first member. */
    ObjectNode all() {
        Drawing drawing = new Drawing();
        ObjectNode schema = object().put("$schema", DRAFT).put("title", "Definitions of Remitto");
        ArrayNode choices = schema.put("type", "object").putArray("allOf");
        ArrayNode names = JsonNodeFactory.instance.arrayNode();
        for (DefinitionKind<?> kind : kinds) {
            if (!kind.isVerbatim()) {
                names.add(kind.kind());
                ObjectNode choice = choices.addObject();
                choice.putObject("if")
                        .putObject("properties")
                        .putObject(DefinitionText.KIND)
                        .put("const", kind.kind());
                choice.set("then", drawing.file(kind));
            }
        }
        schema.putArray("required").add(DefinitionText.KIND).add(DefinitionText.FORMAT);
        schema.putObject("properties").putObject(DefinitionText.KIND).set("enum", names);
        schema.set("$defs", drawing.definitions());
        return schema;
    }

    /** Of one kind alone, which says more plainly what is wrong with a file of it. */
    ObjectNode of(DefinitionKind<?> kind) {
        Drawing drawing = new Drawing();
        ObjectNode schema = object().put("$schema", DRAFT);
        schema.setAll(drawing.file(kind));
        schema.set("$defs", drawing.definitions());
        return schema;
    }

    /** As files name a member of a record. */
    static String snake(String member) {
        return member.replaceAll("([a-z0-9])([A-Z])", "$1_$2").toLowerCase(Locale.ROOT);
    }

    private static ObjectNode object() {
        return JsonNodeFactory.instance.objectNode();
    }

    private static final class Drawing {
        private final Map<String, ObjectNode> drawn = new TreeMap<>();

        ObjectNode definitions() {
            ObjectNode all = object();
            drawn.forEach(all::set);
            return all;
        }

        ObjectNode file(DefinitionKind<?> kind) {
            ObjectNode schema = record(kind.type(), kind.usual());
            ObjectNode members = (ObjectNode) schema.get("properties");
            members.putObject(DefinitionText.KIND).put("const", kind.kind());
            members.putObject(DefinitionText.FORMAT).put("const", DefinitionText.NOW);
            ((ArrayNode) schema.get("required")).add(DefinitionText.KIND).add(DefinitionText.FORMAT);
            return schema;
        }

        private ObjectNode record(Class<?> type, Map<String, Map<String, String>> usual) {
            ObjectNode schema = object().put("type", "object");
            String words = WORDS.format(RuntimeJavadoc.getJavadoc(type).getComment());
            if (!words.isBlank()) {
                schema.put("description", words);
            }
            ArrayNode required = JsonNodeFactory.instance.arrayNode();
            ObjectNode members = schema.putObject("properties");
            for (RecordComponent component : type.getRecordComponents()) {
                String name = snake(component.getName());
                members.set(
                        name,
                        usual.containsKey(name)
                                ? items(
                                        component.getGenericType(),
                                        usual.get(name).keySet())
                                : member(name, component.getGenericType()));
                if (!mayBeMissing(component.getType())) {
                    required.add(name);
                }
            }
            schema.set("required", required);
            return schema.put("additionalProperties", false);
        }

        /** Items of a list that may leave out what is as usual. */
        private ObjectNode items(Type list, Set<String> usual) {
            ObjectNode item = record((Class<?>) ((ParameterizedType) list).getActualTypeArguments()[0], Map.of());
            ArrayNode required = JsonNodeFactory.instance.arrayNode();
            item.get("required").forEach(name -> {
                if (!usual.contains(name.asString())) {
                    required.add(name);
                }
            });
            item.set("required", required);
            ObjectNode schema = object().put("type", "array");
            schema.set("items", item);
            return schema;
        }

        private ObjectNode member(String name, Type type) {
            Optional<String> kind = ReferenceMembers.kindOf(name);
            if (kind.isPresent() && isId(type)) {
                return reference(kind.get());
            }
            if (kind.isPresent() && type instanceof ParameterizedType list && isId(list.getActualTypeArguments()[0])) {
                return isList(list)
                        ? with(object().put("type", "array"), "items", reference(kind.get()))
                        : reference(kind.get());
            }
            return any(type);
        }

        private static ObjectNode reference(String kind) {
            return object().put("type", "string")
                    .put("pattern", "^" + DefinitionNames.FORM + "$")
                    .put("description", "Name of the file of a " + kind + ", without its ending");
        }

        private static ObjectNode with(ObjectNode schema, String member, ObjectNode value) {
            schema.set(member, value);
            return schema;
        }

        private static boolean isId(Type type) {
            return type == long.class || type == Long.class;
        }

        private static boolean isList(ParameterizedType type) {
            return Collection.class.isAssignableFrom((Class<?>) type.getRawType());
        }

        private ObjectNode any(Type type) {
            if (type instanceof ParameterizedType generic) {
                Type[] of = generic.getActualTypeArguments();
                if (isList(generic)) {
                    return with(object().put("type", "array"), "items", any(of[0]));
                }
                return generic.getRawType() == Map.class
                        ? with(object().put("type", "object"), "additionalProperties", any(of[1]))
                        : any(of[0]);
            }
            Class<?> raw = (Class<?>) type;
            if (raw.isEnum()) {
                ObjectNode schema = object();
                ArrayNode words = schema.putArray("enum");
                Arrays.stream(raw.getEnumConstants())
                        .forEach(word -> words.add(((Enum<?>) word).name().toLowerCase(Locale.ROOT)));
                return schema;
            }
            if (raw.isRecord()) {
                return named(raw);
            }
            if (raw.isInterface() && raw.isAnnotationPresent(JsonTypeInfo.class)) {
                return named(raw);
            }
            return object().put("type", plain(raw));
        }

        private static String plain(Class<?> raw) {
            if (raw == boolean.class || raw == Boolean.class) {
                return "boolean";
            }
            if (raw == int.class
                    || raw == long.class
                    || raw == Integer.class
                    || raw == Long.class
                    || raw == OptionalInt.class) {
                return "integer";
            }
            return raw == double.class || raw == BigDecimal.class || raw == Double.class ? "number" : "string";
        }

        /** Drawn once, under its name: conditions hold conditions. */
        private ObjectNode named(Class<?> type) {
            String name =
                    type.getName().substring(type.getPackageName().length() + 1).replace('$', '.');
            if (!drawn.containsKey(name)) {
                drawn.put(name, object());
                drawn.put(name, type.isRecord() ? record(type, Map.of()) : choice(type));
            }
            return object().put("$ref", "#/$defs/" + name);
        }

        private ObjectNode choice(Class<?> type) {
            String by = type.getAnnotation(JsonTypeInfo.class).property();
            ObjectNode schema = object().put("type", "object");
            ArrayNode names = JsonNodeFactory.instance.arrayNode();
            ArrayNode cases = JsonNodeFactory.instance.arrayNode();
            for (JsonSubTypes.Type one : type.getAnnotation(JsonSubTypes.class).value()) {
                names.add(one.name());
                ObjectNode shape = record(one.value(), Map.of());
                ((ObjectNode) shape.get("properties")).putObject(by).put("const", one.name());
                ObjectNode picked = cases.addObject();
                picked.putObject("if").putObject("properties").putObject(by).put("const", one.name());
                picked.set("then", shape);
            }
            schema.putObject("properties").putObject(by).set("enum", names);
            schema.putArray("required").add(by);
            schema.set("allOf", cases);
            return schema;
        }

        private static boolean mayBeMissing(Class<?> type) {
            return type == Optional.class
                    || type == OptionalInt.class
                    || Collection.class.isAssignableFrom(type)
                    || Map.class.isAssignableFrom(type);
        }
    }
}
