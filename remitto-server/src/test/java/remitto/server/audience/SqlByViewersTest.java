package remitto.server.audience;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Collections;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import remitto.server.harness.TestServer;
import remitto.server.harness.TestUser;

/** A question about people runs SQL of one's own only for editors who may see personal values, and is bounded for everybody. */
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class SqlByViewersTest {
    private static final String ATTACK =
            "select cast((select string_agg(rolname, ';') from pg_roles) as int) as person_id";
    private static final Map<String, Object> EVERYONE = Map.of("kind", "everyone");

    private TestServer server;
    private TestUser viewer;
    private TestUser editor;
    private long audience;

    @BeforeAll
    void start() {
        server = TestServer.start();
        viewer = server.user("VIEWER");
        editor = server.user("EDITOR");
        audience = editor.post(
                        "/api/audiences",
                        Map.of(
                                "name",
                                "All",
                                "description",
                                "",
                                "entityType",
                                "PERSON",
                                "basedOn",
                                0,
                                "spec",
                                spec(EVERYONE, "")))
                .ok()
                .get("audience")
                .get("id")
                .asLong();
    }

    @AfterAll
    void stop() {
        server.close();
    }

    private static Map<String, Object> spec(Object condition, String sql) {
        return Map.of(
                "condition",
                condition,
                "sql",
                sql,
                "zone",
                "Europe/Oslo",
                "controlGroup",
                Map.of("percent", 0, "seed", "s"));
    }

    private TestUser.Answer ask(TestUser user, String question, Map<String, Object> spec) {
        return switch (question) {
            case "count" ->
                user.post("/api/conditions/count", Map.of("entityType", "PERSON", "spec", spec, "exact", true));
            case "examples" -> user.post("/api/conditions/examples", Map.of("entityType", "PERSON", "spec", spec));
            case "why" -> user.post("/api/conditions/why", Map.of("entityType", "PERSON", "spec", spec, "personId", 1));
            default -> user.post("/api/audiences/" + audience + "/effect", spec);
        };
    }

    @ParameterizedTest
    @ValueSource(strings = {"count", "examples", "why", "effect"})
    void aViewersSqlIsRefusedAndNothingOfItIsRun(String question) {
        TestUser.Answer answer = ask(viewer, question, spec(EVERYONE, ATTACK));
        assertThat(answer.status()).isEqualTo(403);
        assertThat(answer.text()).doesNotContain("postgres").doesNotContain("remitto_people");
    }

    @Test
    void anEditorWithoutTheRightToSeePersonalValuesIsRefusedToo() {
        TestUser blind = server.user("EDITOR", "blind");
        server.admin()
                .put(
                        "/api/users/" + server.idOf("blind"),
                        Map.of(
                                "email",
                                "blind@quay.example",
                                "name",
                                "blind tester",
                                "role",
                                "EDITOR",
                                "rights",
                                Map.of("SEE_PERSONAL_VALUES", false)))
                .ok();
        TestUser.Answer answer = ask(blind, "count", spec(EVERYONE, ATTACK));
        assertThat(answer.status()).isEqualTo(403);
        assertThat(answer.detail()).contains("may not see personal values");
        assertThat(blind.post(
                                "/api/audiences",
                                Map.of(
                                        "name",
                                        "By SQL",
                                        "description",
                                        "",
                                        "entityType",
                                        "PERSON",
                                        "basedOn",
                                        0,
                                        "spec",
                                        spec(EVERYONE, "select 1 as person_id")))
                        .status())
                .isEqualTo(403);
    }

    @Test
    void anEditorsSqlRunsAndItsTextIsInTheJournal() {
        String sql = "select 4711 as person_id";
        ask(editor, "count", spec(EVERYONE, sql)).ok();
        assertThat(server.journal("ran SQL")).anySatisfy(entry -> {
            assertThat(entry.get("actor").asString()).isEqualTo("editor tester");
            assertThat(entry.get("detail").asString()).isEqualTo(sql);
        });
    }

    @Test
    void theDatabasesWordsReachOnlyWhoMaySeeValues() {
        TestUser.Answer told = ask(editor, "count", spec(EVERYONE, ATTACK));
        assertThat(told.status()).isEqualTo(422);
        assertThat(told.detail()).contains("invalid input syntax");
        long broken = editor.post(
                        "/api/audiences",
                        Map.of(
                                "name",
                                "Broken",
                                "description",
                                "",
                                "entityType",
                                "PERSON",
                                "basedOn",
                                0,
                                "spec",
                                spec(EVERYONE, ATTACK)))
                .ok()
                .get("audience")
                .get("id")
                .asLong();
        editor.post("/api/audiences/" + broken + "/in-service", Map.of("version", 1))
                .ok();
        String seen = viewer.get("/api/audiences/" + broken).text();
        assertThat(seen).contains("refused this query").doesNotContain("remitto_people");
    }

    @Test
    void manyConditionsAreRefusedBeforeTheDatabaseSeesThem() {
        Map<String, Object> line =
                Map.of("kind", "attribute", "attribute", "email", "test", Map.of("kind", "has-value"));
        TestUser.Answer answer =
                ask(viewer, "count", spec(Map.of("kind", "all", "conditions", Collections.nCopies(2_000, line)), ""));
        assertThat(answer.status()).isEqualTo(422);
        assertThat(answer.detail()).isEqualTo("An audience has at most 100 conditions.");
    }

    @Test
    void deepConditionsAreRefused() {
        Map<String, Object> condition = EVERYONE;
        for (int i = 0; i < 60; i++) {
            condition = Map.of("kind", "not", "condition", condition);
        }
        TestUser.Answer answer = ask(viewer, "count", spec(condition, ""));
        assertThat(answer.status()).isEqualTo(422);
        assertThat(answer.detail()).contains("at most 10 deep");
    }

    @Test
    void aShortNumberThatIsHugeWhenWrittenOutIsRefused() {
        String body = """
                {"entityType": "PERSON", "exact": true, "spec": {"sql": "", "zone": "Europe/Oslo", "controlGroup": {"percent": 0, "seed": "s"},
                 "condition": {"kind": "attribute", "attribute": "records",
                  "test": {"kind": "number", "relation": "OVER", "number": 1e999999999}}}}""";
        TestUser.Answer answer = viewer.send("POST", "/api/conditions/count", body);
        assertThat(answer.status()).isEqualTo(400);
        assertThat(answer.detail()).contains("too many digits");
    }

    @Test
    void aSlowQuestionHoldsNoConnectionOfThePeopleWhoSignIn() throws Exception {
        TestUser asking = server.signedIn("editor@quay.example");
        List<Thread> slow = Collections.nCopies(6, spec(EVERYONE, "select pg_sleep(6) is null as person_id")).stream()
                .map(spec -> new Thread(() -> ask(asking, "count", spec)))
                .toList();
        slow.forEach(Thread::start);
        for (int i = 0; i < 30; i++) {
            viewer.get("/api/session").ok();
            viewer.get("/api/audiences").ok();
        }
        assertThat(slow)
                .as("questions that still wait when sixty requests of others are answered")
                .anyMatch(Thread::isAlive);
        for (Thread one : slow) {
            one.join();
        }
    }
}
