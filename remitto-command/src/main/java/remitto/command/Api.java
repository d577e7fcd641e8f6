package remitto.command;

import java.io.IOException;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.time.Duration;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** The API of one installation, called with a token. */
final class Api {
    /** Applying many files tests their connections and counts their audiences. */
    private static final Duration LONGEST = Duration.ofMinutes(15);

    private final HttpClient http =
            HttpClient.newBuilder().connectTimeout(Duration.ofSeconds(20)).build();
    private final JsonMapper json = JsonMapper.builder().build();
    private final String base;
    private final String token;

    Api(String url, String token) {
        this.base = url.replaceAll("/+$", "");
        this.token = token;
        if (!base.matches("https?://.+")) {
            throw new CommandProblem(
                    Exit.REFUSED, "\"" + url + "\" is no address of an installation; it begins with https://.");
        }
    }

    JsonNode get(String path) {
        return answer(request(path).GET());
    }

    JsonNode post(String path, Object body) {
        return answer(request(path)
                .header("Content-Type", "application/json")
                .POST(HttpRequest.BodyPublishers.ofString(json.writeValueAsString(body))));
    }

    private HttpRequest.Builder request(String path) {
        return HttpRequest.newBuilder(URI.create(base + path))
                .timeout(LONGEST)
                .header("Authorization", "Bearer " + token)
                .header("Accept", "application/json, application/problem+json, application/schema+json");
    }

    private JsonNode answer(HttpRequest.Builder request) {
        try {
            HttpResponse<String> response = http.send(request.build(), HttpResponse.BodyHandlers.ofString());
            JsonNode body = read(response.body());
            if (response.statusCode() < 300) {
                return body;
            }
            throw new CommandProblem(
                    response.statusCode() == 401 ? Exit.NO_ENTRY : Exit.REFUSED, words(response.statusCode(), body));
        } catch (IOException e) {
            throw new CommandProblem(Exit.NO_ENTRY, base + " does not answer: " + reason(e));
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new CommandProblem(Exit.NO_ENTRY, "Interrupted while waiting for " + base + ".");
        }
    }

    private static String reason(IOException e) {
        return e.getMessage() == null ? "nothing listens there, or its name is not known." : e.getMessage();
    }

    private JsonNode read(String body) {
        try {
            return json.readTree(body.isEmpty() ? "{}" : body);
        } catch (JacksonException e) {
            throw new CommandProblem(
                    Exit.NO_ENTRY, base + " answers with something that is not JSON; is it an installation?");
        }
    }

    /** A problem document (RFC 9457) as lines: what is wrong, and each part of it. */
    private static String words(int status, JsonNode problem) {
        StringBuilder words = new StringBuilder(
                problem.path("detail").asString(problem.path("title").asString("The answer was " + status + ".")));
        JsonNode details = problem.path("details");
        if (details.size() > 1) {
            details.forEach(detail -> words.append(System.lineSeparator())
                    .append("  ")
                    .append(detail.path("where").asString(""))
                    .append(": ")
                    .append(detail.path("message").asString("")));
        }
        return words.toString();
    }
}
