package remitto.server.harness;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import tools.jackson.databind.json.JsonMapper;

/** A program that calls the API by a token: no cookies, no session. */
public final class TestProgram {
    private static final JsonMapper JSON = JsonMapper.builder().build();

    private final HttpClient http = HttpClient.newHttpClient();
    private final URI base;
    private final String token;

    TestProgram(URI base, String token) {
        this.base = base;
        this.token = token;
    }

    public TestUser.Answer get(String path) {
        return send("GET", path, HttpRequest.BodyPublishers.noBody());
    }

    public TestUser.Answer post(String path, Object body) {
        return send("POST", path, HttpRequest.BodyPublishers.ofString(JSON.writeValueAsString(body)));
    }

    public TestUser.Answer put(String path, Object body) {
        return send("PUT", path, HttpRequest.BodyPublishers.ofString(JSON.writeValueAsString(body)));
    }

    private TestUser.Answer send(String method, String path, HttpRequest.BodyPublisher body) {
        HttpRequest request = HttpRequest.newBuilder(base.resolve(path))
                .header("Authorization", "Bearer " + token)
                .header("Content-Type", "application/json")
                .method(method, body)
                .build();
        try {
            HttpResponse<String> answer = http.send(request, HttpResponse.BodyHandlers.ofString());
            return new TestUser.Answer(answer.statusCode(), answer.body(), answer);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new IllegalStateException("interrupted", e);
        }
    }
}
