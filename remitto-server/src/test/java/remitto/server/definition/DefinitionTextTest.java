package remitto.server.definition;

import static org.assertj.core.api.Assertions.assertThat;

import com.networknt.schema.Schema;
import com.networknt.schema.SchemaRegistry;
import com.networknt.schema.SpecificationVersion;
import java.util.HashMap;
import java.util.HashSet;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import remitto.server.harness.TestServer;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.LongNode;
import tools.jackson.databind.node.ObjectNode;
import tools.jackson.databind.node.StringNode;

/** Whatever a definition says, its file says it, once and in one way. */
class DefinitionTextTest {
    private static final int TRIES = 200;
    private static final int ENOUGH = 40;

    private static TestServer server;
    private static DefinitionsHere here;
    private static DefinitionText text;

    @BeforeAll
    static void start() {
        server = TestServer.start();
        here = server.bean(DefinitionsHere.class);
        text = server.bean(DefinitionText.class);
    }

    @AfterAll
    static void stop() {
        server.close();
    }

    @Test
    void everyDefinitionIsReadAsItWasWritten() {
        Map<String, Integer> made = new HashMap<>();
        for (DefinitionKind<?> kind : here.kinds()) {
            if (!kind.isVerbatim()) {
                for (int seed = 0; seed < TRIES; seed++) {
                    made.merge(kind.kind(), roundTrip(kind, seed), Integer::sum);
                }
            }
        }
        assertThat(made)
                .hasSize(14)
                .allSatisfy((kind, many) -> assertThat(many).as(kind).isGreaterThan(ENOUGH));
    }

    /** @return how many were made up: one, or none where all that was made up was refused */
    private static <T extends Record> int roundTrip(DefinitionKind<T> kind, int seed) {
        Optional<T> made = new RandomRecords(seed).of(kind.type());
        made.ifPresent(one -> roundTrip(kind, seed, one));
        return made.isPresent() ? 1 : 0;
    }

    private static <T extends Record> void roundTrip(DefinitionKind<T> kind, int seed, T made) {
        String file = text.write(kind, named(text.tree(kind, made)));

        JsonNode read = text.read(file);
        assertThat(schema(kind).validate(read))
                .as("%s %d:%n%s", kind.kind(), seed, file)
                .isEmpty();
        ((ObjectNode) read).remove(Set.of(DefinitionText.KIND, DefinitionText.FORMAT));
        ObjectNode withIds = (ObjectNode) ReferenceMembers.replaced(
                read,
                (referred, slug) ->
                        LongNode.valueOf(Long.parseLong(slug.asString().substring(1))));
        T back = text.content(kind, withIds);

        assertThat(back).as("%s %d:%n%s", kind.kind(), seed, file).isEqualTo(made);
        assertThat(text.write(kind, named(text.tree(kind, back)))).isEqualTo(file);
    }

    private static ObjectNode named(ObjectNode tree) {
        return (ObjectNode) ReferenceMembers.replaced(tree, (kind, id) -> StringNode.valueOf("n" + id.asString()));
    }

    private static final Map<String, Schema> SCHEMAS = new HashMap<>();

    private static Schema schema(DefinitionKind<?> kind) {
        return SCHEMAS.computeIfAbsent(
                kind.kind(), name -> SchemaRegistry.withDefaultDialect(SpecificationVersion.DRAFT_2020_12)
                        .getSchema(server.bean(DefinitionSchema.class).of(kind).toString()));
    }

    @Test
    void foldersKindsAndPlacesAreEachThoseOfOneKind() {
        Set<String> folders = new HashSet<>();
        Set<String> kinds = new HashSet<>();
        Set<Integer> places = new HashSet<>();
        here.kinds().forEach(kind -> {
            assertThat(folders.add(kind.folder())).as(kind.folder()).isTrue();
            assertThat(kinds.add(kind.kind())).as(kind.kind()).isTrue();
            assertThat(places.add(kind.place())).as(kind.kind()).isTrue();
        });
        assertThat(ReferenceMembers.KINDS.values()).isSubsetOf(kinds);
    }
}
