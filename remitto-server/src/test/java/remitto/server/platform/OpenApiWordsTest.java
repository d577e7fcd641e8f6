package remitto.server.platform;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import java.util.regex.Pattern;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import remitto.server.harness.TestServer;
import tools.jackson.databind.JsonNode;

/** What the OpenAPI document says in words, for whoever calls the API. */
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class OpenApiWordsTest {
    private static final Set<String> METHODS = Set.of("get", "post", "put", "delete", "patch");
    private static final Pattern MARKUP =
            Pattern.compile("</?(code|p|ul|li|b|i|a)\\b|&[a-z]+;|@(param|return)\\b|\\{@");

    private TestServer server;
    private JsonNode document;

    @BeforeAll
    void start() {
        server = TestServer.start();
        document = server.admin().get("/openapi.json").ok();
    }

    @AfterAll
    void stop() {
        server.close();
    }

    @Test
    void everyOperationIsDescribed() {
        List<String> silent = new ArrayList<>();
        operations((name, operation) -> {
            if (operation.path("description").asString("").isBlank()) {
                silent.add(name);
            }
        });
        assertThat(silent).isEmpty();
    }

    @Test
    void everyParameterIsDescribed() {
        List<String> silent = new ArrayList<>();
        operations((name, operation) -> operation.path("parameters").forEach(one -> {
            if (one.path("description").asString("").isBlank()) {
                silent.add(name + " " + one.get("name").asString());
            }
        }));
        assertThat(silent).isEmpty();
    }

    @Test
    void everySchemaIsDescribed() {
        Set<String> silent = new TreeSet<>();
        document.get("components").get("schemas").properties().forEach(schema -> {
            if (schema.getValue().path("description").asString("").isBlank()) {
                silent.add(schema.getKey());
            }
        });
        assertThat(silent).isEmpty();
    }

    @Test
    void everyOperationSaysHowItRefuses() {
        operations((name, operation) -> assertThat(operation
                        .get("responses")
                        .path("default")
                        .path("content")
                        .path("application/problem+json")
                        .path("schema")
                        .path("$ref")
                        .asString(""))
                .as(name)
                .isEqualTo("#/components/schemas/Refusal"));
    }

    @Test
    void wordsArePlainText() {
        assertThat(MARKUP.matcher(document.toString())
                        .results()
                        .map(found -> found.group())
                        .distinct())
                .isEmpty();
    }

    /** A case of a sealed type says of what it is one, and no name is a riddle. */
    @Test
    void schemasHaveNamesThatSayWhatTheyAre() {
        Set<String> names =
                new TreeSet<>(document.get("components").get("schemas").propertyNames());
        assertThat(names)
                .doesNotContain("Made", "Side", "Why", "Words", "Agreed", "Whole", "Tie", "Ends", "GoTo")
                .contains("ConditionAgreed", "WindowWhole", "ReceivesFoundThere", "ScheduleByHand", "LeaversStay");
        assertThat(names).noneMatch(name -> name.endsWith("Wish"));
    }

    /** What the renaming of schemas left behind would be a reference to nothing. */
    @Test
    void everyReferenceLeadsToASchema() {
        Set<String> names =
                new TreeSet<>(document.get("components").get("schemas").propertyNames());
        Set<String> meant = new TreeSet<>();
        Pattern.compile("#/components/schemas/(\\w+)")
                .matcher(document.toString())
                .results()
                .forEach(found -> meant.add(found.group(1)));
        assertThat(names).containsAll(meant);
    }

    private interface Each {
        void operation(String name, JsonNode operation);
    }

    private void operations(Each each) {
        document.get("paths")
                .properties()
                .forEach(path -> path.getValue().properties().forEach(method -> {
                    if (METHODS.contains(method.getKey())) {
                        each.operation(method.getKey() + " " + path.getKey(), method.getValue());
                    }
                }));
    }
}
