package remitto.server.harness;

import java.io.IOException;
import java.io.InputStream;
import java.net.CookieManager;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.util.Map;
import java.util.concurrent.CompletableFuture;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.JsonNodeFactory;

/** A browser without pages: cookies, the token against forged requests, and whatever comes back. */
public final class TestUser {
    private static final JsonMapper JSON = JsonMapper.builder().build();

    private final CookieManager cookies = new CookieManager();
    private final HttpClient http =
            HttpClient.newBuilder().cookieHandler(cookies).build();
    private final URI base;

    TestUser(URI base) {
        this.base = base;
    }

    /** @param text the body as it came */
    public record Answer(int status, String text, HttpResponse<String> raw) {
        public JsonNode json() {
            return text.isEmpty() ? JsonNodeFactory.instance.objectNode() : JSON.readTree(text);
        }

        /** What a problem says. */
        public String detail() {
            return json().path("detail").asString("");
        }

        /** The answer, if it is a success. */
        public JsonNode ok() {
            if (status >= 300) {
                throw new AssertionError(status + " " + text);
            }
            return json();
        }
    }

    public Answer signIn(String email, String password) {
        get("/api/session");
        return post("/api/session", Map.of("email", email, "password", password));
    }

    /** What the browser keeps of the session. */
    public String sessionCookie() {
        return cookies.getCookieStore().get(base).stream()
                .filter(cookie -> cookie.getName().equals("remitto"))
                .findFirst()
                .orElseThrow()
                .getValue();
    }

    public Answer get(String path) {
        return send("GET", path, "");
    }

    public Answer post(String path, Object body) {
        return send("POST", path, JSON.writeValueAsString(body));
    }

    /** As a browser or another program opens an address. @param accepted media types, as the header says them */
    public HttpResponse<String> opened(String path, String accepted) throws IOException, InterruptedException {
        return http.send(
                HttpRequest.newBuilder(base.resolve(path))
                        .header("Accept", accepted)
                        .build(),
                HttpResponse.BodyHandlers.ofString());
    }

    public Answer put(String path, Object body) {
        return send("PUT", path, JSON.writeValueAsString(body));
    }

    public Answer delete(String path) {
        return send("DELETE", path, "");
    }

    /** An answer that is read as it comes. */
    public HttpResponse<InputStream> stream(String path) throws IOException, InterruptedException {
        return http.send(HttpRequest.newBuilder(base.resolve(path)).build(), HttpResponse.BodyHandlers.ofInputStream());
    }

    /** @param body as it goes; none when it is empty */
    public Answer send(String method, String path, String body) {
        return send(method, path, body, "application/json");
    }

    /** Asks, and does not wait; cancelling hangs up. */
    public CompletableFuture<HttpResponse<String>> asking(String path, Object body) {
        return http.sendAsync(
                request("POST", path, JSON.writeValueAsString(body), "application/json"),
                HttpResponse.BodyHandlers.ofString());
    }

    /** @param type media type that the body is said to be of */
    public Answer send(String method, String path, String body, String type) {
        try {
            HttpResponse<String> response =
                    http.send(request(method, path, body, type), HttpResponse.BodyHandlers.ofString());
            return new Answer(response.statusCode(), response.body(), response);
        } catch (IOException e) {
            throw new java.io.UncheckedIOException(e);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new IllegalStateException("interrupted", e);
        }
    }

    private HttpRequest request(String method, String path, String body, String type) {
        HttpRequest.Builder request = HttpRequest.newBuilder(base.resolve(path));
        request.method(
                method,
                body.isEmpty() ? HttpRequest.BodyPublishers.noBody() : HttpRequest.BodyPublishers.ofString(body));
        if (!body.isEmpty()) {
            request.header("Content-Type", type);
        }
        cookies.getCookieStore().get(base).stream()
                .filter(cookie -> cookie.getName().equals("XSRF-TOKEN"))
                .findFirst()
                .ifPresent(cookie -> request.header("X-XSRF-TOKEN", cookie.getValue()));
        return request.build();
    }
}
