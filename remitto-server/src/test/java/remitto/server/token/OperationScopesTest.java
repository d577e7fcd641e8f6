package remitto.server.token;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.springframework.http.HttpMethod;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** What each operation needs of a token. */
class OperationScopesTest {
    private static final Set<String> METHODS = Set.of("get", "post", "put", "delete", "patch");

    private final OperationScopes scopes = new OperationScopes();

    @ParameterizedTest
    @CsvSource({
        "GET, /api/routes/7, READ",
        "HEAD, /api/routes/7, READ",
        "POST, /api/conditions/count, READ",
        "GET, /api/datasets/3/records, PREPARE",
        "GET, /api/people/9/file, PREPARE",
        "POST, /api/routes/7/runs, PREPARE",
        "POST, /api/runs/5/discard, PREPARE",
        "POST, /api/runs/5/undo, PREPARE",
        "POST, /api/runs/5/send, SEND",
        "POST, /api/stocktakes/2/decisions, SEND",
        "POST, /api/runs/5/approve, APPROVE",
        "POST, /api/people/runs/5/approve, APPROVE",
        "POST, /api/erasures, APPROVE",
        "POST, /api/erasures/5/removals/1/done, APPROVE",
        "POST, /api/routes, DEFINE",
        "POST, /api/routes/7/in-service, DEFINE",
        "DELETE, /api/routes/7, DEFINE",
        "PUT, /api/sources/7, DEFINE",
        "POST, /api/people/rules/in-service, DEFINE",
        "PATCH, /api/something/new, DEFINE",
        "POST, /api/users, ADMINISTER",
        "GET, /api/users, ADMINISTER",
        "POST, /api/service-accounts/4/tokens, ADMINISTER",
        "PUT, /api/retention/RUN_EVENTS, ADMINISTER",
        "POST, /api/destinations/7/let-in, ADMINISTER",
        "GET, /api/session, READ"
    })
    void anOperationNeedsItsScope(String method, String path, Scope scope) {
        assertThat(scopes.needed(HttpMethod.valueOf(method), path)).contains(scope);
    }

    @ParameterizedTest
    @CsvSource({
        "POST, /api/session",
        "PUT, /api/session/password",
        "GET, /api/drafts",
        "POST, /api/welcome/abc",
        "POST, /api/destinations/7/sign-in"
    })
    void someAreForPeopleAlone(String method, String path) {
        assertThat(scopes.needed(HttpMethod.valueOf(method), path)).isEmpty();
    }

    /** What the product publishes is what it asks for. */
    @Test
    void everyOperationOfTheDocumentSaysItsScope() throws Exception {
        JsonNode document = JsonMapper.builder().build().readTree(Files.readString(Path.of("..", "openapi.json")));
        int operations = 0;
        for (Map.Entry<String, JsonNode> path : document.get("paths").properties()) {
            for (Map.Entry<String, JsonNode> operation : path.getValue().properties()) {
                if (!METHODS.contains(operation.getKey())) {
                    continue;
                }
                operations++;
                String at = path.getKey().replaceAll("\\{[^}]+}", "1");
                Optional<Scope> scope =
                        scopes.needed(HttpMethod.valueOf(operation.getKey().toUpperCase(java.util.Locale.ROOT)), at);
                assertThat(operation.getValue().path("description").asString(""))
                        .as(operation.getKey() + " " + path.getKey())
                        .endsWith(scope.map(one -> "Scope of a token: " + one.words() + ".")
                                .orElse("No token may call it."));
            }
        }
        assertThat(operations).isGreaterThan(250);
    }
}
