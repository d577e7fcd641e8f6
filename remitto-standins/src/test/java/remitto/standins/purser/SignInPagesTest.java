package remitto.standins.purser;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.net.URI;
import java.net.URLEncoder;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.Base64;
import java.util.Map;
import java.util.stream.Collectors;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

class SignInPagesTest {
    private static final JsonMapper JSON = JsonMapper.builder().build();
    private static final String VERIFIER = "dBjftJeZ4CVP-mB92K27uhbUJU1p1r_wW1gFWFOEjXk";
    /** RFC 7636, appendix B. */
    private static final String CHALLENGE = "E9Melhoa2OwvFrEMTJguCHaoeK1t8URWbuGJSstw-cM";

    private static final String BACK = "http://127.0.0.1:9/back";
    private final HttpClient http = HttpClient.newHttpClient();

    @TempDir
    private Path folder;

    private Purser purser;

    @BeforeEach
    void start() {
        purser = Purser.start(0, folder.resolve("purser.jsonl"));
    }

    @AfterEach
    void stop() {
        purser.close();
    }

    private HttpRequest.Builder to(String path) {
        return HttpRequest.newBuilder(URI.create("http://127.0.0.1:" + purser.port() + path));
    }

    private static String form(Map<String, String> fields) {
        return fields.entrySet().stream()
                .map(entry -> entry.getKey() + "=" + URLEncoder.encode(entry.getValue(), StandardCharsets.UTF_8))
                .collect(Collectors.joining("&"));
    }

    private HttpResponse<String> send(HttpRequest.Builder request) throws IOException, InterruptedException {
        return http.send(request.build(), HttpResponse.BodyHandlers.ofString());
    }

    private HttpResponse<String> signIn(String email, String password, String answer) throws Exception {
        return send(to("/oauth/authorize")
                .header("Content-Type", "application/x-www-form-urlencoded")
                .POST(HttpRequest.BodyPublishers.ofString(form(Map.of(
                        "client_id", Purser.CLIENT,
                        "redirect_uri", BACK,
                        "response_type", "code",
                        "code_challenge_method", "S256",
                        "code_challenge", CHALLENGE,
                        "state", "s/1",
                        "email", email,
                        "password", password,
                        "answer", answer)))));
    }

    private String code(String email, String password) throws Exception {
        String location = signIn(email, password, "allow")
                .headers()
                .firstValue("Location")
                .orElseThrow();
        assertThat(location).startsWith(BACK + "?code=").endsWith("&state=s%2F1");
        return location.replaceAll(".*code=([^&]+).*", "$1");
    }

    private JsonNode token(Map<String, String> fields) throws Exception {
        String basic = Base64.getEncoder().encodeToString((Purser.CLIENT + ":" + Purser.SECRET).getBytes());
        return JSON.readTree(send(to("/oauth/token")
                        .header("Authorization", "Basic " + basic)
                        .header("Content-Type", "application/x-www-form-urlencoded")
                        .POST(HttpRequest.BodyPublishers.ofString(form(fields))))
                .body());
    }

    private JsonNode byCode(String code, String verifier) throws Exception {
        return token(Map.of(
                "grant_type", "authorization_code", "code", code, "redirect_uri", BACK, "code_verifier", verifier));
    }

    private JsonNode byRefresh(String refresh) throws Exception {
        return token(Map.of("grant_type", "refresh_token", "refresh_token", refresh));
    }

    @Test
    void aPersonSignsInAndTheProgramActsForThem() throws Exception {
        JsonNode given = byCode(code("runa.vik@halvorn.example", "harbour-5512"), VERIFIER);
        var told = send(to("/api/v1/whoami")
                .header("Authorization", "Bearer " + given.get("access_token").asString()));
        JsonNode who = JSON.readTree(told.body());
        assertThat(who.get("login").asString()).isEqualTo("Runa Vik");
        assertThat(who.get("client").asString()).isEqualTo(Purser.CLIENT);
        assertThat(who.get("rights").toString()).contains("contact.write");
    }

    @Test
    void aCodeServesOnceAndOnlyWithItsVerifier() throws Exception {
        String code = code("runa.vik@halvorn.example", "harbour-5512");
        assertThat(byCode(code, "x".repeat(43)).get("error").asString()).isEqualTo("invalid_grant");
        assertThat(byCode(code, VERIFIER).get("error").asString())
                .describedAs("a code that was shown with a wrong verifier is spent")
                .isEqualTo("invalid_grant");
        String other = code("runa.vik@halvorn.example", "harbour-5512");
        assertThat(byCode(other, VERIFIER).has("access_token")).isTrue();
        assertThat(byCode(other, VERIFIER).get("error").asString()).isEqualTo("invalid_grant");
    }

    @Test
    void aRefreshTokenServesOnceAndOutlivesARestart() throws Exception {
        String first = byCode(code("runa.vik@halvorn.example", "harbour-5512"), VERIFIER)
                .get("refresh_token")
                .asString();
        purser.close();
        start();
        String second = byRefresh(first).get("refresh_token").asString();
        assertThat(second).isNotEqualTo(first);
        assertThat(byRefresh(first).get("error").asString()).isEqualTo("invalid_grant");
        assertThat(byRefresh(second).has("access_token")).isTrue();
    }

    @Test
    void someLoginsOnlyLook() throws Exception {
        String access = byCode(code("odd.berge@halvorn.example", "lighthouse-9083"), VERIFIER)
                .get("access_token")
                .asString();
        var refused = send(to("/api/v1/contact/batch")
                .header("Authorization", "Bearer " + access)
                .POST(HttpRequest.BodyPublishers.ofString("{\"by\":\"external_ref\",\"records\":[]}")));
        assertThat(refused.statusCode()).isEqualTo(403);
        assertThat(refused.body()).contains("Odd Berge may not write contact");
        var fields = send(to("/api/v1/catalogue/contact").header("Authorization", "Bearer " + access));
        assertThat(fields.body()).doesNotContain("\"writable\":true");
    }

    @Test
    void aWrongPasswordARefusalAndAStrangeProgramAreTold() throws Exception {
        assertThat(signIn("runa.vik@halvorn.example", "guess", "allow").body()).contains("password is wrong");
        assertThat(signIn("", "", "refuse").headers().firstValue("Location").orElseThrow())
                .startsWith(BACK + "?error=access_denied");
        var page = send(to("/oauth/authorize?client_id=somebody&redirect_uri=http://127.0.0.1/x"));
        assertThat(page.body()).contains("No program is known").doesNotContain("password");
        var elsewhere = send(
                to(
                        "/oauth/authorize?client_id=" + Purser.CLIENT
                                + "&redirect_uri=https://elsewhere.example/x&response_type=code&code_challenge=a&code_challenge_method=S256"));
        assertThat(elsewhere.body()).contains("this machine only").doesNotContain("type=password");
    }
}
