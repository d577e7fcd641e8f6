package remitto.e2e;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Duration;
import java.util.List;
import java.util.Map;
import java.util.regex.Pattern;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import remitto.connect.database.DatabaseSettings;
import remitto.connect.postgres.PostgresDialect;
import remitto.connect.source.RowSource;
import remitto.connect.source.SourceProblem;
import remitto.connect.source.SourceProblem.Kind;
import remitto.connect.source.SourceQuery;
import remitto.demo.Databases;
import remitto.demo.history.Api;
import remitto.demo.history.Scenario;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class SourcesAndRightsTest {
    private Stack stack;
    private Api editor;
    private long source;

    @BeforeAll
    void start() throws Exception {
        stack = Stack.start(200);
        editor = stack.user("EDITOR");
        source = new Scenario(editor).setUp(stack.places()).source();
    }

    @AfterAll
    void stop() throws Exception {
        stack.close();
    }

    private RowSource warehouse(String user, String password, int port) {
        return PostgresDialect.source(
                new DatabaseSettings(
                        "127.0.0.1", port, stack.warehouseDatabase, user, password, DatabaseSettings.Tls.OFF),
                new remitto.connect.outgoing.AddressGuard(java.util.List.of("127.0.0.1")));
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = ';',
            value = {
                "select nme from ferry.ports; SQL_FAULT; 8",
                "selct 1; SQL_FAULT; 1",
                "update ferry.ports set name = 'X'; WOULD_WRITE; 0",
                "create table ferry.mine (a int); WOULD_WRITE; 0",
                "select pg_sleep(30); TOOK_TOO_LONG; 0",
                "''; SQL_FAULT; 0"
            })
    void invariant10ReadingNeverWritesAndFaultsAreTold(String sql, Kind kind, int position) {
        assertThatThrownBy(() -> warehouse(Databases.READER, Databases.READER_PASSWORD, stack.databases.port())
                        .preview(SourceQuery.text(sql), 10, Duration.ofSeconds(1)))
                .satisfies(thrown -> {
                    assertThat(((SourceProblem) thrown).kind()).isEqualTo(kind);
                    if (position > 0) {
                        assertThat(((SourceProblem) thrown).position()).hasValue(position);
                    }
                })
                .isInstanceOf(SourceProblem.class);
    }

    @Test
    void twoStatementsAreRefusedSoThatNothingStepsOutOfTheTransaction() {
        assertThatThrownBy(() -> warehouse(Databases.READER, Databases.READER_PASSWORD, stack.databases.port())
                        .preview(
                                SourceQuery.text("select 1; commit; update ferry.ports set name = 'X'"),
                                10,
                                Duration.ofSeconds(5)))
                .hasMessageContaining("One query at a time");
    }

    @Test
    void whatTheReaderMayNotReadIsSaid() {
        assertThatThrownBy(() -> warehouse(Databases.READER, Databases.READER_PASSWORD, stack.databases.port())
                        .preview(SourceQuery.text("select * from truth.person_records"), 10, Duration.ofSeconds(5)))
                .hasMessageContaining("may not read");
        JsonNode report =
                editor.post("/api/sources/" + source + "/test", Map.of()).get("report");
        assertThat(report.get("warnings")).isEmpty();
        assertThat(report.get("grants").toString()).contains("grant select on all tables in schema ferry");
        JsonNode people = editor.get("/api/sources")
                .valueStream()
                .filter(one -> one.get("kind").asString().equals("people"))
                .findFirst()
                .orElseThrow();
        assertThat(people.get("report").get("grants"))
                .as("the server grants this login what it may read")
                .isEmpty();
        assertThatThrownBy(() -> editor.put(
                        "/api/sources/" + people.get("id").asLong(),
                        Map.of("name", "Mine", "address", people.get("address"))))
                .hasMessageContaining("This source is Remitto's own");
        for (JsonNode schema : report.get("schemas")) {
            if (schema.get("name").asString().equals("truth")) {
                assertThat(schema.get("usable").asBoolean()).isFalse();
            }
        }
    }

    @Test
    void aWarehouseThatIsDownOrRefusesTheLogin() {
        assertThatThrownBy(() ->
                        warehouse("postgres", "wrong", stack.databases.port()).check())
                .satisfies(thrown -> assertThat(((SourceProblem) thrown).kind()).isEqualTo(Kind.SIGN_IN_REFUSED));
        assertThatThrownBy(() -> warehouse("postgres", "x", 1).check())
                .satisfies(thrown -> assertThat(((SourceProblem) thrown).kind()).isEqualTo(Kind.UNREACHABLE));
    }

    @Test
    void theKeyIsCheckedForBlanksAndDoubles() {
        JsonNode check = editor.post(
                "/api/datasets/check-key",
                Map.of(
                        "sourceId", source,
                        "query",
                                Map.of(
                                        "kind",
                                        "sql",
                                        "text",
                                        "select * from (values ('a', 1), ('a', 2), ('', 3), (null, 4), ('b', 5)) as v (k, n)"),
                        "keys", List.of("k")));
        assertThat(check.get("rows").asInt()).isEqualTo(5);
        assertThat(check.get("blanks").asInt()).isEqualTo(2);
        assertThat(check.get("doubled").asInt()).isEqualTo(1);
        assertThat(check.get("examples").get(0).asString()).isEqualTo("a");
    }

    @Test
    void aDatasetNeedsAKey() {
        assertThatThrownBy(() -> editor.post(
                        "/api/datasets",
                        Map.of(
                                "name",
                                "Keyless",
                                "description",
                                "",
                                "sourceId",
                                1,
                                "basedOn",
                                0,
                                "definition",
                                Map.of(
                                        "query", Map.of("kind", "sql", "text", "select code from ferry.ports"),
                                        "columns",
                                                List.of(Map.of("name", "code", "type", "TEXT", "role", "ATTRIBUTE"))))))
                .hasMessageContaining("key column");
    }

    @Test
    void secretsAreNeitherReturnedNorReadable() throws SQLException {
        assertThat(editor.get("/api/sources").toString()).doesNotContain(Databases.READER_PASSWORD);
        assertThat(editor.get("/api/destinations").toString()).doesNotContain("gangplank");
        try (Connection connection = stack.databases.owner(stack.remittoDatabase);
                Statement statement = connection.createStatement();
                var rows =
                        statement.executeQuery("select secret from source union all select secret from destination")) {
            while (rows.next()) {
                assertThat(new String(rows.getBytes(1), StandardCharsets.ISO_8859_1))
                        .doesNotContain(Databases.READER_PASSWORD)
                        .doesNotContain("gangplank");
            }
        }
    }

    @Test
    void theJournalCannotBeAltered() throws SQLException {
        assertThat(editor.get("/api/journal").get("entries")).isNotEmpty();
        try (Connection connection = stack.databases.owner(stack.remittoDatabase);
                Statement statement = connection.createStatement()) {
            assertThatThrownBy(() -> statement.execute("delete from ledger.journal"))
                    .hasMessageContaining("append-only");
            assertThatThrownBy(() -> statement.execute("update ledger.journal set actor = 'nobody'"))
                    .hasMessageContaining("append-only");
        }
    }

    @Test
    void rolesAndSignIn() {
        Api viewer = stack.user("VIEWER");
        assertThat(viewer.get("/api/routes")).isNotEmpty();
        assertThatThrownBy(() -> viewer.post("/api/routes/1/runs", Map.of())).hasMessageContaining("403");
        assertThatThrownBy(() -> editor.get("/api/users")).hasMessageContaining("403");
        assertThatThrownBy(() -> new Api(stack.server().address()).get("/api/routes"))
                .hasMessageContaining("401");
        assertThatThrownBy(() -> new Api(stack.server().address()).signIn("admin@halvorn.example", "wrong"))
                .hasMessageContaining("E-mail or password is wrong");
    }

    @Test
    void aWrongClientSecretIsSaidAndPrivateAddressesAreRefused() {
        JsonNode wrong = editor.post(
                "/api/destinations",
                Map.of(
                        "name",
                        "Purser, wrong secret",
                        "profile",
                        "purser-crm",
                        "limitsOff",
                        false,
                        "settings",
                        Map.of(
                                "base_address",
                                stack.purserAddress().toString(),
                                "client_id",
                                "remitto-demo",
                                "client_secret",
                                "no")));
        assertThat(wrong.get("problem").asString()).contains("client id or its secret is wrong");
        JsonNode inside = editor.post(
                "/api/destinations",
                Map.of(
                        "name",
                        "Inside",
                        "profile",
                        "purser-crm",
                        "limitsOff",
                        false,
                        "settings",
                        Map.of("base_address", "http://169.254.169.254", "client_id", "a", "client_secret", "b")));
        assertThat(inside.get("problem").asString()).contains("not allowed");
    }

    @Test
    void theCommittedOpenApiDocumentIsTheServersOwn() throws Exception {
        JsonMapper json = JsonMapper.builder().build();
        JsonNode committed = json.readTree(Files.readString(Path.of("..", "openapi.json")));
        JsonNode served = editor.get("/openapi.json");
        assertThat(withoutServers(served)).isEqualTo(withoutServers(committed));
    }

    /** A page that is opened by its address, or reloaded, is the same as one that was walked to. */
    @Test
    void everyPageOfTheFrontEndHasItsAddressAtTheServer() throws Exception {
        String app = Files.readString(Path.of("..", "remitto-web", "src", "App.tsx"));
        List<String> paths = Pattern.compile("<Route path=\"(/[^\"]*)\"")
                .matcher(app)
                .results()
                .map(found -> found.group(1).replaceAll(":\\w+", "1"))
                .toList();
        assertThat(paths).hasSizeGreaterThan(15);
        HttpClient http = HttpClient.newHttpClient();
        for (String path : paths) {
            HttpResponse<String> page = http.send(
                    HttpRequest.newBuilder(stack.server().address().resolve(path))
                            .header("Accept", "text/html")
                            .build(),
                    HttpResponse.BodyHandlers.ofString());
            assertThat(page.statusCode()).as(path).isEqualTo(200);
            assertThat(page.body()).as(path).contains("<div id=\"root\">");
        }
    }

    private static JsonNode withoutServers(JsonNode document) {
        return ((tools.jackson.databind.node.ObjectNode) document.deepCopy()).without("servers");
    }
}
