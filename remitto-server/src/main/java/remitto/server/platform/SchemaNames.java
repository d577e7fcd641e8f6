package remitto.server.platform;

import com.fasterxml.jackson.annotation.JsonTypeInfo;
import io.swagger.v3.oas.models.OpenAPI;
import io.swagger.v3.oas.models.Operation;
import io.swagger.v3.oas.models.media.Content;
import io.swagger.v3.oas.models.media.Schema;
import java.util.ArrayList;
import java.util.IdentityHashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/**
 * Gives the cases of a sealed type the name of that type as well: {@code Condition.Agreed} is {@code ConditionAgreed} in the OpenAPI
 * document, where a bare {@code Agreed} would say nothing.
 */
final class SchemaNames {
    private static final String PREFIX = "#/components/schemas/";

    private final Map<String, String> renamed;
    private final Set<Schema<?>> met = java.util.Collections.newSetFromMap(new IdentityHashMap<>());

    /** @param renamed new names by the old ones */
    private SchemaNames(Map<String, String> renamed) {
        this.renamed = renamed;
    }

    /** The name of a type in the document. */
    static String of(Class<?> type) {
        Class<?> outer = type.getDeclaringClass();
        boolean isCase = outer != null && outer.isAnnotationPresent(JsonTypeInfo.class) && outer.isAssignableFrom(type);
        return isCase ? outer.getSimpleName() + type.getSimpleName() : type.getSimpleName();
    }

    /**
     * Renames the schemas of a document, and all that refers to them.
     *
     * @param types by the names that they have in it
     */
    static void give(OpenAPI document, Map<String, Class<?>> types) {
        Map<String, String> renamed = new LinkedHashMap<>();
        types.forEach((name, type) -> {
            if (!of(type).equals(name)) {
                renamed.put(name, of(type));
            }
        });
        new SchemaNames(renamed).rename(document);
    }

    @SuppressWarnings({"rawtypes"})
    private void rename(OpenAPI document) {
        Map<String, Schema> schemas = new java.util.TreeMap<>();
        document.getComponents().getSchemas().forEach((name, schema) -> {
            String now = renamed.getOrDefault(name, name);
            if (schemas.put(now, schema) != null) {
                throw new IllegalStateException("two schemas are called " + now);
            }
            schema(schema);
        });
        document.getComponents().setSchemas(schemas);
        document.getPaths().values().forEach(path -> path.readOperations().forEach(this::operation));
    }

    private void operation(Operation operation) {
        Optional.ofNullable(operation.getParameters()).ifPresent(all -> all.forEach(one -> schema(one.getSchema())));
        Optional.ofNullable(operation.getRequestBody()).ifPresent(body -> content(body.getContent()));
        operation.getResponses().values().forEach(answer -> content(answer.getContent()));
    }

    private void content(Content content) {
        if (content != null) {
            content.values().forEach(one -> schema(one.getSchema()));
        }
    }

    private void schema(Object maybe) {
        if (!(maybe instanceof Schema<?> schema) || !met.add(schema)) {
            return;
        }
        if (schema.get$ref() != null) {
            schema.set$ref(reference(schema.get$ref()));
        }
        for (List<?> parts : lists(schema)) {
            parts.forEach(this::schema);
        }
        schema(schema.getItems());
        schema(schema.getAdditionalProperties());
        if (schema.getProperties() != null) {
            schema.getProperties().values().forEach(this::schema);
        }
        if (schema.getDiscriminator() != null && schema.getDiscriminator().getMapping() != null) {
            schema.getDiscriminator().getMapping().replaceAll((kind, to) -> reference(to));
        }
    }

    private static List<List<?>> lists(Schema<?> schema) {
        List<List<?>> all = new ArrayList<>();
        for (List<?> one : java.util.Arrays.asList(schema.getAllOf(), schema.getAnyOf(), schema.getOneOf())) {
            if (one != null) {
                all.add(one);
            }
        }
        return all;
    }

    private String reference(String to) {
        String name = to.startsWith(PREFIX) ? to.substring(PREFIX.length()) : "";
        return renamed.containsKey(name) ? PREFIX + renamed.get(name) : to;
    }
}
