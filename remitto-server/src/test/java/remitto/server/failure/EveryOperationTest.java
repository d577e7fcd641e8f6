package remitto.server.failure;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import remitto.server.harness.TestServer;
import remitto.server.harness.TestUser;
import tools.jackson.databind.JsonNode;

/**
 * The short form of {@code ./remitto fuzz}: every operation of the OpenAPI document, asked by administrator, editor and viewer in ways that
 * are wrong, answers as it is documented: never with a fault of the server's own, and where it refuses, with a problem that has a code.
 */
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class EveryOperationTest {
    private static final Set<String> METHODS = Set.of("get", "post", "put", "delete", "patch");
    /** It ends the session that asks, or stays open for as long as somebody listens. */
    private static final Set<String> PASSED_OVER =
            Set.of("DELETE /api/session", "GET /api/runs/{id}/events", "GET /api/events");

    private TestServer server;
    private JsonNode document;

    private record Operation(String method, String path) {}

    @BeforeAll
    void start() {
        server = TestServer.start();
        document = server.admin().get("/openapi.json").ok();
    }

    @AfterAll
    void stop() {
        server.close();
    }

    private List<Operation> operations() {
        List<Operation> operations = new ArrayList<>();
        document.get("paths")
                .properties()
                .forEach(path -> path.getValue().properties().forEach(one -> {
                    String method = one.getKey().toUpperCase(Locale.ROOT);
                    if (METHODS.contains(one.getKey()) && !PASSED_OVER.contains(method + " " + path.getKey())) {
                        operations.add(new Operation(method, path.getKey()));
                    }
                }));
        assertThat(operations).hasSizeGreaterThan(200);
        return operations;
    }

    @Test
    void besideTheApiNothingButLookingIsLetIn() {
        for (TestUser who : List.of(server.stranger(), server.admin())) {
            who.get("/api/session");
            for (String path : List.of("/", "/routes", "/sign-in", "/health/liveness", "/assets/x.js", "/anything")) {
                for (String method : List.of("POST", "PUT", "DELETE", "PATCH")) {
                    assertThat(who.send(method, path, "{}").status())
                            .as("%s %s", method, path)
                            .isIn(401, 403);
                }
            }
        }
        assertThat(server.stranger().get("/sign-in").status()).isEqualTo(200);
    }

    private List<TestUser> everybody() {
        return List.of(server.admin(), server.user("EDITOR"), server.user("VIEWER"));
    }

    private static String filled(String path, String value) {
        return path.replaceAll("\\{[^}]+}", value);
    }

    private static void isAnswered(String asked, TestUser.Answer answer) {
        assertThat(answer.status()).as("%s: %s", asked, answer.text()).isLessThan(500);
        if (answer.status() >= 400) {
            assertThat(answer.raw().headers().firstValue("Content-Type").orElse(""))
                    .as(asked)
                    .startsWith("application/problem+json");
            assertThat(answer.json().path("code").asString("")).as(asked).isNotBlank();
            assertThat(answer.text()).as(asked).doesNotContain("Exception", "java.", "PSQL", "springframework");
        }
    }

    @Test
    void everyOperationSaysHowItRefuses() {
        operations().forEach(one -> assertThat(document.get("paths")
                        .get(one.path())
                        .get(one.method().toLowerCase(Locale.ROOT))
                        .get("responses")
                        .get("default")
                        .get("content")
                        .has("application/problem+json"))
                .as("%s", one)
                .isTrue());
    }

    @Test
    void bodiesThatAreNoneOfItsKind() {
        for (TestUser user : everybody()) {
            for (Operation one : operations()) {
                if (!one.method().equals("GET")) {
                    String path = filled(one.path(), "999999");
                    for (String body : List.of("{", "[null]", "{\"x\":1}", "\"\\u0000\"", "null")) {
                        isAnswered(one + " " + body, user.send(one.method(), path, body));
                    }
                    isAnswered(one + " in parts", user.send(one.method(), path, "x", "multipart/form-data"));
                    isAnswered(one + " as text", user.send(one.method(), path, "x", "text/plain"));
                }
            }
        }
    }

    @Test
    void idsAndParametersThatAreNone() {
        for (TestUser user : everybody()) {
            for (Operation one : operations()) {
                if (one.method().equals("GET")) {
                    for (String id : List.of(
                            "0",
                            "-9223372036854775808",
                            "9223372036854775808",
                            "none",
                            "a%3Bb",
                            "%0A",
                            "%F0%9F%9A%A2")) {
                        isAnswered(one + " " + id, user.get(filled(one.path(), id)));
                    }
                    String path = filled(one.path(), "1");
                    for (String query : List.of("=x", "limit=-1&offset=-1", "before=x&after=x", "midnight=yesterday")) {
                        isAnswered(one + " " + query, user.get(path + "?" + query));
                    }
                }
            }
        }
    }

    /** What a first run found, and whose cause is mended. */
    @Test
    void whatWasFoundOnce() {
        TestUser admin = server.admin();
        assertThat(admin.get("/api/crosswalks/77/crosswalk.csv").status()).isEqualTo(404);
        assertThat(admin.post(
                                "/api/crosswalks",
                                java.util.Collections.singletonMap(
                                        "entries", java.util.Collections.singletonList(null)))
                        .status())
                .isEqualTo(400);
        assertThat(admin.put("/api/consents/frequency-cap", Map.of("most", 1, "days", 1, "routes", List.of(77)))
                        .status())
                .isBetween(400, 422);
        TestUser.Answer nul = admin.post(
                "/api/datasets/preview",
                Map.of("sourceId", 1, "query", Map.of("kind", "sql", "text", "select 1 \u0000")));
        assertThat(nul.status()).as(nul.text()).isBetween(400, 422);
    }
}
