package remitto.server.platform;

import com.fasterxml.jackson.annotation.JsonSubTypes;
import com.fasterxml.jackson.annotation.JsonTypeInfo;
import com.fasterxml.jackson.databind.type.TypeFactory;
import com.github.therapi.runtimejavadoc.CommentFormatter;
import com.github.therapi.runtimejavadoc.RuntimeJavadoc;
import io.swagger.v3.core.converter.AnnotatedType;
import io.swagger.v3.core.converter.ModelConverter;
import io.swagger.v3.core.converter.ModelConverterContext;
import io.swagger.v3.oas.models.OpenAPI;
import io.swagger.v3.oas.models.info.Info;
import io.swagger.v3.oas.models.media.Content;
import io.swagger.v3.oas.models.media.Discriminator;
import io.swagger.v3.oas.models.media.IntegerSchema;
import io.swagger.v3.oas.models.media.MediaType;
import io.swagger.v3.oas.models.media.Schema;
import io.swagger.v3.oas.models.media.StringSchema;
import io.swagger.v3.oas.models.responses.ApiResponse;
import io.swagger.v3.oas.models.responses.ApiResponses;
import java.lang.reflect.RecordComponent;
import java.util.ArrayList;
import java.util.Iterator;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.concurrent.ConcurrentHashMap;
import org.springdoc.core.customizers.OpenApiCustomizer;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;

/**
 * Makes the OpenAPI document say what the JSON is: components of records are required unless they are Optional,
 * and a sealed interface is one of its cases, told apart by {@code kind}.
 */
@Configuration
class OpenApiConfiguration {
    private static final String REFUSAL = "Refusal";

    @Bean
    OpenAPI openApi() {
        return new OpenAPI().info(new Info().title("Remitto").version("1"));
    }

    /** Every operation may refuse, and does so in one form: problem details (RFC 9457) with a code. */
    @Bean
    OpenApiCustomizer refusals() {
        return document -> {
            document.getComponents().addSchemas(REFUSAL, refusal());
            ApiResponse refused = new ApiResponse()
                    .description(
                            "Refused: the request is wrong (400, 404, 405, 406, 413, 415, 422), its sender is not signed in (401) or may"
                                    + " not (403), it does not fit what is there (409), or it comes too often (429, 503). The detail says what to do.")
                    .content(new Content()
                            .addMediaType(
                                    "application/problem+json",
                                    new MediaType().schema(new Schema<>().$ref("#/components/schemas/" + REFUSAL))));
            document.getPaths().values().forEach(path -> path.readOperations()
                    .forEach(operation -> operation.getResponses().addApiResponse(ApiResponses.DEFAULT, refused)));
        };
    }

    private static Schema<Object> refusal() {
        Schema<Object> schema = new Schema<>();
        schema.setTypes(java.util.Set.of("object"));
        schema.setDescription("Problem details as RFC 9457 says.");
        schema.addProperty("title", new StringSchema().description("The status in words"));
        schema.addProperty("status", new IntegerSchema().description("HTTP status"));
        schema.addProperty("detail", new StringSchema().description("What is wrong, and what to do about it"));
        schema.addProperty("instance", new StringSchema().description("Path that was asked"));
        schema.addProperty("code", new StringSchema().description("Stable word for programs, such as conflict"));
        schema.setRequired(List.of("title", "status", "code"));
        return schema;
    }

    @Bean
    OpenApiCustomizer words(RecordsAndCases records) {
        return document -> SchemaWords.give(document, records.sealedTypes);
    }

    @Bean
    RecordsAndCases recordsAndCases() {
        return new RecordsAndCases();
    }

    @Bean
    OpenApiCustomizer namesOfSchemas(RecordsAndCases records) {
        return document -> SchemaNames.give(document, records.named);
    }

    static final class RecordsAndCases implements ModelConverter {
        private static final CommentFormatter WORDS = new CommentFormatter();

        private final Map<String, Class<?>> named = new ConcurrentHashMap<>();
        /** Words of sealed types by their names: those that refer to themselves have a schema of their own. */
        private final Map<String, String> sealedTypes = new ConcurrentHashMap<>();

        @Override
        public Schema<?> resolve(AnnotatedType type, ModelConverterContext context, Iterator<ModelConverter> chain) {
            Class<?> raw =
                    TypeFactory.defaultInstance().constructType(type.getType()).getRawClass();
            if (raw == OptionalInt.class) {
                return new Schema<>().types(java.util.Set.of("integer")).format("int32");
            }
            if (raw.isInterface() && raw.isAnnotationPresent(JsonTypeInfo.class)) {
                return cases(raw, context);
            }
            if (!chain.hasNext()) {
                return null;
            }
            Schema<?> schema = chain.next().resolve(type, context, chain);
            if (raw.isRecord()) {
                oneOfItsName(raw);
                describe(raw, context);
            }
            return schema;
        }

        private Schema<?> cases(Class<?> sealed, ModelConverterContext context) {
            Schema<Object> schema = new Schema<>();
            schema.setDescription(wordsOf(sealed));
            sealedTypes.put(sealed.getSimpleName(), wordsOf(sealed));
            Discriminator discriminator = new Discriminator()
                    .propertyName(sealed.getAnnotation(JsonTypeInfo.class).property());
            for (JsonSubTypes.Type one :
                    sealed.getAnnotation(JsonSubTypes.class).value()) {
                context.resolve(new AnnotatedType(one.value()).resolveAsRef(true));
                String name = one.value().getSimpleName();
                Schema<?> known = context.getDefinedModels().get(name);
                if (known == null) {
                    known = new Schema<>().types(java.util.Set.of("object"));
                    context.defineModel(name, known);
                }
                StringSchema kind = new StringSchema();
                kind.addEnumItem(one.name());
                known.setTypes(java.util.Set.of("object"));
                known.addProperty(discriminator.getPropertyName(), kind);
                known.addRequiredItem(discriminator.getPropertyName());
                known.setAllOf(null);
                schema.addOneOfItem(new Schema<>().$ref("#/components/schemas/" + name));
                discriminator.mapping(one.name(), "#/components/schemas/" + name);
            }
            schema.setDiscriminator(discriminator);
            return schema;
        }

        private static String wordsOf(Class<?> type) {
            return WORDS.format(RuntimeJavadoc.getJavadoc(type).getComment());
        }

        /** The document names a record by its simple name; two of one name would silently become one. */
        private void oneOfItsName(Class<?> record) {
            Class<?> other = named.putIfAbsent(record.getSimpleName(), record);
            if (other != null && other != record) {
                throw new IllegalStateException(other + " and " + record + " have one name in the OpenAPI document");
            }
        }

        private static void describe(Class<?> record, ModelConverterContext context) {
            Schema<?> known = context.getDefinedModels().get(record.getSimpleName());
            if (known == null || known.getProperties() == null) {
                return;
            }
            List<String> required =
                    new ArrayList<>(Optional.ofNullable(known.getRequired()).orElse(List.of()));
            for (RecordComponent component : record.getRecordComponents()) {
                boolean optional = component.getType() == Optional.class || component.getType() == OptionalInt.class;
                boolean listed = known.getProperties().containsKey(component.getName());
                if (!optional && listed && !required.contains(component.getName())) {
                    required.add(component.getName());
                }
            }
            known.setRequired(required);
        }
    }
}
