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
}
