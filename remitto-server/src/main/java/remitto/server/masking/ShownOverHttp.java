package remitto.server.masking;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.context.annotation.Configuration;
import org.springframework.http.converter.HttpMessageConverters;
import org.springframework.http.converter.json.JacksonJsonHttpMessageConverter;
import org.springframework.web.servlet.config.annotation.WebMvcConfigurer;
import remitto.server.permission.ActorNames;
import remitto.server.platform.ActorName;
import remitto.server.platform.Personal;
import tools.jackson.core.JsonGenerator;
import tools.jackson.databind.BeanDescription;
import tools.jackson.databind.DeserializationFeature;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.SerializationConfig;
import tools.jackson.databind.SerializationContext;
import tools.jackson.databind.ValueSerializer;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.module.SimpleModule;
import tools.jackson.databind.node.ArrayNode;
import tools.jackson.databind.node.ObjectNode;
import tools.jackson.databind.node.StringNode;
import tools.jackson.databind.ser.BeanPropertyWriter;
import tools.jackson.databind.ser.ValueSerializerModifier;

/**
 * JSON as it goes over HTTP: components marked {@link Personal} are masked for whoever may not see them, and those marked
 * {@link ActorName} show a name. What is kept in the database goes through the plain mapper and is never masked.
 */
@Configuration
class ShownOverHttp implements WebMvcConfigurer {
    private final JsonMapper plain;
    private final PersonalValues values;
    private final ActorNames names;

    ShownOverHttp(JsonMapper plain, PersonalValues values, ActorNames names) {
        this.plain = plain;
        this.values = values;
        this.names = names;
    }

    @Override
    public void configureMessageConverters(HttpMessageConverters.ServerBuilder builder) {
        SimpleModule module = new SimpleModule("shown over HTTP");
        module.setSerializerModifier(new MarkedComponents());
        builder.withJsonConverter(new JacksonJsonHttpMessageConverter(plain.rebuild()
                .enable(DeserializationFeature.FAIL_ON_NULL_CREATOR_PROPERTIES)
                .addModule(module)
                .build()));
    }

    private final class MarkedComponents extends ValueSerializerModifier {
        private static final long serialVersionUID = 1L;

        @Override
        public List<BeanPropertyWriter> changeProperties(
                SerializationConfig config, BeanDescription.Supplier described, List<BeanPropertyWriter> properties) {
            List<BeanPropertyWriter> changed = new ArrayList<>(properties);
            changed.forEach(property -> {
                Personal personal = property.getAnnotation(Personal.class);
                if (personal != null) {
                    property.assignSerializer(new MaskedValue(personal.value()));
                } else if (property.getAnnotation(ActorName.class) != null) {
                    property.assignSerializer(new NamedActor());
                }
            });
            return changed;
        }
    }

    private final class MaskedValue extends ValueSerializer<Object> {
        private final Personal.Part part;

        MaskedValue(Personal.Part part) {
            this.part = part;
        }

        @Override
        public void serialize(Object value, JsonGenerator out, SerializationContext context) {
            if (values.isShown()) {
                context.writeValue(out, value);
            } else {
                context.writeTree(out, masked(plain.valueToTree(value)));
            }
        }

        @Override
        public boolean isEmpty(SerializationContext context, @Nullable Object value) {
            return value == null || (value instanceof Optional<?> optional && optional.isEmpty());
        }

        private JsonNode masked(JsonNode node) {
            if (node instanceof ObjectNode object) {
                ObjectNode out = plain.createObjectNode();
                object.properties().forEach(one -> out.set(one.getKey(), masked(one.getValue())));
                return out;
            } else if (node instanceof ArrayNode array) {
                ArrayNode out = plain.createArrayNode();
                array.forEach(one -> out.add(masked(one)));
                return out;
            }
            return node.isString() || node.isNumber() ? StringNode.valueOf(values.masked(node.asString(), part)) : node;
        }
    }

    private final class NamedActor extends ValueSerializer<Object> {
        @Override
        public void serialize(Object actor, JsonGenerator out, SerializationContext context) {
            out.writeString(names.of(String.valueOf(actor)));
        }
    }
}
