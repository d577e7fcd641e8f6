package remitto.server.definition;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.annotation.JsonSubTypes;
import java.lang.reflect.ParameterizedType;
import java.lang.reflect.RecordComponent;
import java.lang.reflect.Type;
import java.util.HashSet;
import java.util.Set;
import java.util.TreeSet;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import remitto.server.harness.TestServer;

/** Every id within a definition is known as one, and nothing else is taken for one. */
class ReferenceMembersTest {
    /** Whole numbers of definitions that are no ids. */
    private static final Set<String> NUMBERS = Set.of("RowCount.least", "RowCount.most", "Limit.count");

    private static TestServer server;

    @BeforeAll
    static void start() {
        server = TestServer.start();
    }

    @AfterAll
    static void stop() {
        server.close();
    }

    @Test
    void everyIdOfEveryDefinitionIsKnownAndNothingElseIsCalledLikeOne() {
        Set<String> ids = new TreeSet<>();
        Set<String> others = new TreeSet<>();
        Set<Class<?>> seen = new HashSet<>();
        server.bean(DefinitionsHere.class).kinds().forEach(kind -> look(kind.type(), seen, ids, others));

        assertThat(seen).as("types that were looked at").hasSizeGreaterThan(40);
        assertThat(ids).as("ids that no file has a name for").isEmpty();
        assertThat(others).as("members that would be taken for ids").isEmpty();
    }

    private static void look(Type type, Set<Class<?>> seen, Set<String> ids, Set<String> others) {
        if (type instanceof ParameterizedType generic) {
            for (Type of : generic.getActualTypeArguments()) {
                look(of, seen, ids, others);
            }
            return;
        }
        Class<?> raw = (Class<?>) type;
        if (!seen.add(raw)) {
            return;
        }
        if (raw.isAnnotationPresent(JsonSubTypes.class)) {
            for (JsonSubTypes.Type one : raw.getAnnotation(JsonSubTypes.class).value()) {
                look(one.value(), seen, ids, others);
            }
        }
        if (raw.isRecord()) {
            for (RecordComponent component : raw.getRecordComponents()) {
                String name = raw.getSimpleName() + "." + component.getName();
                boolean known = ReferenceMembers.kindOf(DefinitionSchema.snake(component.getName()))
                        .isPresent();
                boolean id = isId(component.getGenericType());
                if (id && !known && !NUMBERS.contains(name)) {
                    ids.add(name);
                }
                if (known && !id) {
                    others.add(name);
                }
                look(component.getGenericType(), seen, ids, others);
            }
        }
    }

    private static boolean isId(Type type) {
        return type == long.class
                || type == Long.class
                || type instanceof ParameterizedType generic && isId(generic.getActualTypeArguments()[0]);
    }
}
