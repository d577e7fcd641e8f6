package remitto.standins.purser;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.Base64;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

class PurserTest {
    private static final JsonMapper JSON = JsonMapper.builder().build();
    private final HttpClient http = HttpClient.newHttpClient();

    @TempDir
    private Path folder;

    private Purser purser;
    private String token;

    @BeforeEach
    void start() throws Exception {
        purser = Purser.start(0, folder.resolve("purser.jsonl"));
        token = token();
    }

    @AfterEach
    void stop() {
        purser.close();
    }

    private HttpRequest.Builder to(String path) {
        return HttpRequest.newBuilder(URI.create("http://127.0.0.1:" + purser.port() + path));
    }

    private String token() throws IOException, InterruptedException {
        String basic = Base64.getEncoder().encodeToString((Purser.CLIENT + ":" + Purser.SECRET).getBytes());
        HttpResponse<String> response = http.send(
                to("/oauth/token")
                        .header("Authorization", "Basic " + basic)
                        .header("Content-Type", "application/x-www-form-urlencoded")
                        .POST(HttpRequest.BodyPublishers.ofString("grant_type=client_credentials"))
                        .build(),
                HttpResponse.BodyHandlers.ofString());
        return JSON.readTree(response.body()).path("access_token").asString();
    }

    private HttpResponse<String> post(String path, String body) throws IOException, InterruptedException {
        return http.send(
                to(path).header("Authorization", "Bearer " + token)
                        .POST(HttpRequest.BodyPublishers.ofString(body))
                        .build(),
                HttpResponse.BodyHandlers.ofString());
    }

    private JsonNode add(String fields) throws IOException, InterruptedException {
        String key = JSON.readTree(fields).path("external_ref").asString("");
        return JSON.readTree(post(
                                "/api/v1/contact/batch",
                                "{\"by\":\"external_ref\",\"absent\":\"add\",\"present\":\"write\",\"records\":[{\"key\":\""
                                        + key + "\",\"fields\":" + fields + "}]}")
                        .body())
                .get("results")
                .get(0);
    }

    private static String codes(JsonNode result) {
        StringBuilder codes = new StringBuilder();
        result.get("problems")
                .forEach(problem -> codes.append(problem.get("field").asString())
                        .append(' ')
                        .append(problem.get("code").asString())
                        .append(';'));
        return codes.toString();
    }

    @Test
    void fieldRulesAreKept() throws Exception {
        assertThat(add("{\"external_ref\":\"1\",\"family_name\":\"Solvang\",\"email\":\"a@sol.example\"}")
                        .get("outcome")
                        .asString())
                .isEqualTo("added");
        assertThat(codes(add("{\"external_ref\":\"2\",\"email\":\"a@sol.example\"}")))
                .isEqualTo("email not_unique;family_name required;");
        assertThat(codes(add(
                        "{\"external_ref\":\"3\",\"family_name\":\"X\",\"country\":\"XX\",\"mobile\":\"91244870\",\"health\":1,"
                                + "\"desk_note\":\"hi\",\"crossings_90d\":\"many\",\"nowhere\":1}")))
                .isEqualTo("country not_in_list;mobile wrong_type;health read_only;desk_note not_permitted;"
                        + "crossings_90d wrong_type;nowhere unknown_field;");
        assertThat(codes(add("{\"external_ref\":\"4\",\"family_name\":\"" + "x".repeat(61) + "\"}")))
                .isEqualTo("family_name too_long;");
    }

    @Test
    void dataSurvivesARestartAndACutOffLineIsDropped() throws Exception {
        String id = add("{\"external_ref\":\"1\",\"family_name\":\"Solvang\"}")
                .get("id")
                .asString();
        purser.close();
        Files.writeString(folder.resolve("purser.jsonl"), "{\"at\":\"2026-", StandardOpenOption.APPEND);
        purser = Purser.start(0, folder.resolve("purser.jsonl"));
        token = token();
        assertThat(add("{\"external_ref\":\"1\",\"family_name\":\"Solvang\"}")
                        .get("outcome")
                        .asString())
                .isEqualTo("same");
        assertThat(add("{\"external_ref\":\"2\",\"family_name\":\"Thune\"}")
                        .get("id")
                        .asString())
                .isNotEqualTo(id);
    }

    @Test
    void callsBeyondTheLimitAreToldWhenToComeBack() throws Exception {
        HttpResponse<String> last = post("/api/v1/contact/find", "{\"by\":\"id\",\"values\":[]}");
        for (int i = 0; i < 120; i++) {
            last = post("/api/v1/contact/find", "{\"by\":\"id\",\"values\":[]}");
        }
        assertThat(last.statusCode()).isEqualTo(429);
        assertThat(last.headers().firstValue("Retry-After")).isPresent();
    }

    @Test
    void moreThanABatchTakesIsRefusedWhole() throws Exception {
        String values = "\"x\",".repeat(250) + "\"x\"";
        assertThat(post("/api/v1/contact/find", "{\"by\":\"id\",\"values\":[" + values + "]}")
                        .statusCode())
                .isEqualTo(413);
    }

    @Test
    void aConnectionCanDropBeforeAndAfterTheWriteTookEffect() throws Exception {
        for (String fault : new String[] {"drop-before", "drop-after"}) {
            http.send(
                    to("/control/faults")
                            .PUT(HttpRequest.BodyPublishers.ofString(
                                    "[{\"fault\":\"" + fault + "\",\"on\":\"batch\",\"next\":1}]"))
                            .build(),
                    HttpResponse.BodyHandlers.discarding());
            assertThatThrownBy(() -> add("{\"external_ref\":\"" + fault + "\",\"family_name\":\"Solvang\"}"))
                    .isInstanceOf(IOException.class);
        }
        String body = post(
                        "/api/v1/contact/find", "{\"by\":\"external_ref\",\"values\":[\"drop-before\",\"drop-after\"]}")
                .body();
        assertThat(JSON.readTree(body).get("found")).hasSize(1);
        assertThat(body).contains("drop-after");
    }

    @Test
    void aStrangerIsTurnedAway() throws Exception {
        token = "made-up";
        assertThat(post("/api/v1/contact/find", "{}").statusCode()).isEqualTo(401);
    }

    private JsonNode get(String path) throws IOException, InterruptedException {
        return JSON.readTree(http.send(
                        to(path).header("Authorization", "Bearer " + token)
                                .GET()
                                .build(),
                        HttpResponse.BodyHandlers.ofString())
                .body());
    }

    private void put(String path, String body) throws IOException, InterruptedException {
        assertThat(http.send(
                                to(path).PUT(HttpRequest.BodyPublishers.ofString(body))
                                        .build(),
                                HttpResponse.BodyHandlers.ofString())
                        .statusCode())
                .isLessThan(300);
    }

    @Test
    void everyChangeIsListedOnceWithDeletionsAndFromAMomentOn() throws Exception {
        put("/control/clock", "{\"at\":\"2026-11-24T08:00:00Z\"}");
        String one = add("{\"external_ref\":\"C-1\",\"family_name\":\"Berg\"}")
                .get("id")
                .asString();
        String two = add("{\"external_ref\":\"C-2\",\"family_name\":\"Dahl\"}")
                .get("id")
                .asString();
        put("/control/clock", "{\"at\":\"2026-11-24T09:00:00Z\"}");
        add("{\"external_ref\":\"C-1\",\"family_name\":\"Berge\"}");
        post("/api/v1/contact/remove", "{\"ids\":[\"" + two + "\"]}");
        JsonNode all = get("/api/v1/contact/changes");
        assertThat(all.get("changes")).hasSize(2);
        assertThat(all.get("changes").get(0).get("id").asString()).isEqualTo(one);
        assertThat(all.get("changes").get(0).get("fields").get("family_name").asString())
                .isEqualTo("Berge");
        assertThat(all.get("changes").get(1).get("deleted").asBoolean()).isTrue();
        assertThat(all.get("next").asString()).isEmpty();
        assertThat(get("/api/v1/contact/changes?since=2026-11-24T09:00:01Z").get("changes"))
                .isEmpty();
        purser.close();
        purser = Purser.start(0, folder.resolve("purser.jsonl"));
        token = token();
        assertThat(get("/api/v1/contact/changes").get("changes"))
                .as("after a restart")
                .isEqualTo(all.get("changes"));
    }

    @Test
    void aChangedFieldHoldsFromThenOnAndAcrossARestart() throws Exception {
        put(
                "/control/schema",
                "{\"object\":\"contact\",\"field\":\"home_port\",\"change\":\"shrink\",\"value\":\"5\"}");
        put(
                "/control/schema",
                "{\"object\":\"contact\",\"field\":\"country\",\"change\":\"drop-choice\",\"value\":\"NO\"}");
        purser.close();
        purser = Purser.start(0, folder.resolve("purser.jsonl"));
        token = token();
        JsonNode refused =
                add("{\"external_ref\":\"C-1\",\"family_name\":\"Berg\",\"home_port\":\"Sandvær\",\"country\":\"NO\"}");
        assertThat(refused.get("outcome").asString()).isEqualTo("refused");
        assertThat(refused.get("problems")).hasSize(2);
    }

    @Test
    void aReferenceTakesOnlyARecordThatIsThere() throws Exception {
        JsonNode refused = add("{\"external_ref\":\"C-1\",\"family_name\":\"Berg\",\"company\":\"99999\"}");
        assertThat(refused.get("problems").get(0).get("message").asString()).isEqualTo("there is no company 99999");
    }

    @Test
    void aPartialFaultRefusesEveryOtherRecord() throws Exception {
        put("/control/faults", "[{\"fault\":\"partial\",\"on\":\"batch\",\"next\":1}]");
        JsonNode results = JSON.readTree(post(
                                "/api/v1/contact/batch",
                                "{\"by\":\"external_ref\",\"absent\":\"add\",\"present\":\"write\",\"records\":["
                                        + "{\"key\":\"C-1\",\"fields\":{\"family_name\":\"Berg\"}},"
                                        + "{\"key\":\"C-2\",\"fields\":{\"family_name\":\"Dahl\"}}]}")
                        .body())
                .get("results");
        assertThat(results.get(0).get("outcome").asString()).isEqualTo("added");
        assertThat(results.get(1).get("outcome").asString()).isEqualTo("refused");
    }

    @Test
    void recordsAreAsTheyWereKept() throws Exception {
        add("{\"external_ref\":\"1\",\"family_name\":\"Solvang\"}");
        control("PUT");
        add("{\"external_ref\":\"1\",\"family_name\":\"Holme\"}");
        add("{\"external_ref\":\"2\",\"family_name\":\"Vik\"}");
        control("POST");
        JsonNode found =
                JSON.readTree(post("/api/v1/contact/find", "{\"by\":\"external_ref\",\"values\":[\"1\",\"2\"]}")
                        .body());
        assertThat(found.get("found").values()).hasSize(1);
        assertThat(found.at("/found/0/fields/family_name").asString()).isEqualTo("Solvang");
        assertThat(add("{\"external_ref\":\"2\",\"family_name\":\"Vik\"}")
                        .get("outcome")
                        .asString())
                .as("what it holds uniquely is as it was, too")
                .isEqualTo("added");
    }

    private void control(String method) throws Exception {
        HttpResponse<String> answer = http.send(
                to("/control/data/kept")
                        .method(method, HttpRequest.BodyPublishers.noBody())
                        .build(),
                HttpResponse.BodyHandlers.ofString());
        assertThat(answer.statusCode()).isEqualTo(204);
    }
}
