package remitto.demo.history;

import java.io.IOException;
import java.net.CookieManager;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.time.Duration;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** A signed-in user of Remitto's HTTP API. */
public final class Api {
    private static final JsonMapper JSON = JsonMapper.builder().build();
    private static final Set<String> UNDER_WAY = Set.of("PREPARING", "SENDING");

    private final CookieManager cookies = new CookieManager();
    private final HttpClient http =
            HttpClient.newBuilder().cookieHandler(cookies).build();
    private final URI base;
    private final Optional<Duration> longest;

    public Api(URI base) {
        this(base, Optional.empty());
    }

    /** @param longest how long an answer may take; after that it is as if nobody answered */
    public Api(URI base, Optional<Duration> longest) {
        this.base = base;
        this.longest = longest;
    }

    /** An answer that is not a success. */
    public static final class Refused extends RuntimeException {
        private final int status;

        Refused(int status, String body) {
            super(status + " " + body);
            this.status = status;
        }

        public int status() {
            return status;
        }
    }

    public Api signIn(String email, String password) {
        get("/api/session");
        post("/api/session", Map.of("email", email, "password", password));
        return this;
    }

    public JsonNode get(String path) {
        return send(HttpRequest.newBuilder(base.resolve(path)).GET());
    }

    public JsonNode post(String path, Object body) {
        return send(HttpRequest.newBuilder(base.resolve(path))
                .header("Content-Type", "application/json")
                .POST(HttpRequest.BodyPublishers.ofString(JSON.writeValueAsString(body))));
    }

    public JsonNode put(String path, Object body) {
        return send(HttpRequest.newBuilder(base.resolve(path))
                .header("Content-Type", "application/json")
                .PUT(HttpRequest.BodyPublishers.ofString(JSON.writeValueAsString(body))));
    }

    /** A part of an answer as the value it is. */
    public <T> T read(String path, String part, Class<T> type) {
        return JSON.treeToValue(get(path).get(part), type);
    }

    public JsonNode delete(String path) {
        return send(HttpRequest.newBuilder(base.resolve(path)).DELETE());
    }

    /** Waits until a run is neither being prepared nor sent. */
    public JsonNode await(long runId) {
        while (true) {
            JsonNode run = get("/api/runs/" + runId);
            if (!UNDER_WAY.contains(run.get("state").asString())) {
                return run;
            }
            pause();
        }
    }

    /** Waits until a run is in a state, whatever it passes through. */
    public JsonNode await(long runId, String state) {
        while (true) {
            JsonNode run = get("/api/runs/" + runId);
            if (run.get("state").asString().equals(state)) {
                return run;
            }
            pause();
        }
    }

    /** Asks until the answer is as wanted. */
    public JsonNode until(String path, java.util.function.Predicate<JsonNode> wanted) {
        while (true) {
            JsonNode seen = get(path);
            if (wanted.test(seen)) {
                return seen;
            }
            pause();
        }
    }

    /** Waits until no run at all is under way. */
    public void awaitAll() {
        boolean busy = true;
        while (busy) {
            busy = false;
            for (JsonNode run : get("/api/runs").get("runs")) {
                busy |= UNDER_WAY.contains(run.get("state").asString());
            }
            pause();
        }
    }

    private static void pause() {
        try {
            Thread.sleep(50);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new IllegalStateException("interrupted", e);
        }
    }

    /** An answer that is not JSON, such as a download. */
    public String text(String path) {
        return exchange(HttpRequest.newBuilder(base.resolve(path)).GET());
    }

    /** Reads a download to its end and says how many lines it has, keeping none of them. */
    public long lines(String path) {
        HttpRequest request = HttpRequest.newBuilder(base.resolve(path)).GET().build();
        try {
            HttpResponse<Stream<String>> response = http.send(request, HttpResponse.BodyHandlers.ofLines());
            try (Stream<String> lines = response.body()) {
                if (response.statusCode() >= 300) {
                    throw new Refused(response.statusCode(), path);
                }
                return lines.count();
            }
        } catch (IOException e) {
            throw new java.io.UncheckedIOException(e);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new IllegalStateException("interrupted", e);
        }
    }

    private JsonNode send(HttpRequest.Builder request) {
        String body = exchange(request);
        return body.isEmpty() ? JSON.createObjectNode() : JSON.readTree(body);
    }

    private String exchange(HttpRequest.Builder request) {
        longest.ifPresent(request::timeout);
        cookies.getCookieStore().get(base).stream()
                .filter(cookie -> cookie.getName().equals("XSRF-TOKEN"))
                .findFirst()
                .ifPresent(cookie -> request.header("X-XSRF-TOKEN", cookie.getValue()));
        try {
            HttpResponse<String> response = http.send(request.build(), HttpResponse.BodyHandlers.ofString());
            if (response.statusCode() >= 300) {
                throw new Refused(response.statusCode(), response.body());
            }
            return response.body();
        } catch (IOException e) {
            throw new java.io.UncheckedIOException(e);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new IllegalStateException("interrupted", e);
        }
    }
}
