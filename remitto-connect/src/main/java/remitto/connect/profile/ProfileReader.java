package remitto.connect.profile;

import com.networknt.schema.Schema;
import com.networknt.schema.SchemaRegistry;
import com.networknt.schema.SpecificationVersion;
import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.util.List;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.MapperFeature;
import tools.jackson.databind.ObjectMapper;
import tools.jackson.databind.PropertyNamingStrategies;
import tools.jackson.dataformat.yaml.YAMLMapper;

/** Reads profiles (YAML) and checks them against their JSON Schema (draft 2020-12). */
public final class ProfileReader {
    private final ObjectMapper yaml = YAMLMapper.builder()
            .propertyNamingStrategy(PropertyNamingStrategies.SNAKE_CASE)
            .enable(MapperFeature.ACCEPT_CASE_INSENSITIVE_ENUMS)
            .build();
    private final Schema schema = SchemaRegistry.withDefaultDialect(SpecificationVersion.DRAFT_2020_12)
            .getSchema(resource("profile.schema.json"));

    /** What is wrong with a profile, all at once. */
    public static final class ProfileFault extends RuntimeException {
        private final transient List<String> faults;

        ProfileFault(List<String> faults) {
            super(String.join("; ", faults));
            this.faults = List.copyOf(faults);
        }

        public List<String> faults() {
            return faults;
        }
    }

    /** @throws ProfileFault if the text is not YAML, or not a profile */
    public Profile read(String text) {
        try {
            JsonNode tree = yaml.readTree(text);
            List<String> faults =
                    schema.validate(tree).stream().map(Object::toString).toList();
            if (!faults.isEmpty()) {
                throw new ProfileFault(faults);
            }
            return yaml.treeToValue(tree, Profile.class);
        } catch (JacksonException e) {
            throw new ProfileFault(List.of(e.getOriginalMessage()));
        }
    }

    /** The text of a profile or schema that ships with this module. */
    public static String resource(String name) {
        try (InputStream in = ProfileReader.class.getResourceAsStream("/profiles/" + name)) {
            if (in == null) {
                throw new IllegalArgumentException("no profile resource " + name);
            }
            return new String(in.readAllBytes(), StandardCharsets.UTF_8);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }
}
