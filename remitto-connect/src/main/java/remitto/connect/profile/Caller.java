package remitto.connect.profile;

import java.io.IOException;
import java.net.ConnectException;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.net.http.HttpTimeoutException;
import java.nio.charset.StandardCharsets;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.Base64;
import java.util.Map;
import java.util.Optional;
import remitto.connect.destination.DestinationProblem;
import remitto.connect.destination.DestinationProblem.Kind;
import remitto.connect.destination.Pace;
import remitto.connect.outgoing.AddressGuard;
import remitto.core.delivery.Backoff;
import tools.jackson.core.JacksonException;
import tools.jackson.core.JsonPointer;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.ObjectMapper;

/** Makes the calls of a profile: paced, signed in, to allowed addresses only. Safe to share between threads. */
final class Caller {
    private static final String SIGNED = "standard-webhooks";

    private final Profile profile;
    private final Map<String, String> settings;
    private final HttpClient http;
    private final ObjectMapper json;
    private final Pace pace;
    private final AddressGuard guard;
    private final Backoff backoff;
    private final Clock clock;
    private volatile Optional<String> token = Optional.empty();

    Caller(
            Profile profile,
            Map<String, String> settings,
            HttpClient http,
            ObjectMapper json,
            Pace pace,
            AddressGuard guard,
            Backoff backoff,
            Clock clock) {
        this.profile = profile;
        this.settings = Map.copyOf(settings);
        this.http = http;
        this.json = json;
        this.pace = pace;
        this.guard = guard;
        this.backoff = backoff;
        this.clock = clock;
    }

    /** @param retryAfter how long the tool asks to wait */
    record Reply(int status, JsonNode body, String text, Optional<Duration> retryAfter) {
        boolean throttled() {
            return status == 429 || status == 503;
        }
    }

    /** Nothing left this machine, or the tool could not be reached at all. */
    static final class NotSentFailure extends RuntimeException {
        NotSentFailure(String message) {
            super(message);
        }
    }

    /** No answer that can be read. */
    static final class UnknownFailure extends RuntimeException {
        UnknownFailure(String message) {
            super(message);
        }
    }

    /** A call that may be made as often as needed, until it succeeds or all tries are used up. */
    Reply reading(String method, String path, Optional<byte[]> body) {
        String last = "";
        boolean renewed = false;
        for (int attempt = 1; attempt <= backoff.tries(); attempt++) {
            try {
                Reply reply = once(method, path, body, Map.of(), true);
                if (reply.status() < 300) {
                    return reply;
                }
                if (reply.status() == 401 && !renewed) {
                    renewed = true;
                    token = Optional.empty();
                    continue;
                }
                if (!profile.retriable(reply.status())) {
                    throw new DestinationProblem(
                            reply.status() == 401 ? Kind.SIGN_IN_REFUSED : Kind.REFUSED,
                            profile.title() + " refused " + method + " " + path + " (" + reply.status() + "): "
                                    + problem(reply));
                }
                last = reply.status() + ", " + problem(reply);
                waitFor(reply.retryAfter().orElse(backoff.pause(attempt, Math.random())));
            } catch (NotSentFailure | UnknownFailure e) {
                last = String.valueOf(e.getMessage());
                waitFor(backoff.pause(attempt, Math.random()));
            }
        }
        throw new DestinationProblem(
                Kind.UNREACHABLE, profile.title() + " could not be read after " + backoff.tries() + " tries: " + last);
    }

    /**
     * A call that is made once; only a token that ran out is renewed, once.
     *
     * @param answerRead the answer says something that is needed, so that one that is not JSON is no answer
     */
    Reply writing(String method, String path, byte[] body, Map<String, String> headers, boolean answerRead) {
        Reply reply = once(method, path, Optional.of(body), headers, answerRead);
        if (reply.status() == 401) {
            token = Optional.empty();
            reply = once(method, path, Optional.of(body), headers, answerRead);
        }
        return reply;
    }

    private Reply once(
            String method, String path, Optional<byte[]> body, Map<String, String> headers, boolean answerRead) {
        HttpRequest.Builder request = HttpRequest.newBuilder(address(path))
                .header("Content-Type", "application/json")
                .method(
                        method,
                        body.map(HttpRequest.BodyPublishers::ofByteArray).orElse(HttpRequest.BodyPublishers.noBody()));
        headers.forEach(request::setHeader);
        signed(request);
        if (profile.authentication().kind().equals(SIGNED)) {
            sign(request, headers, body.orElse(new byte[0]));
        }
        return exchange(request, answerRead);
    }

    /** Signs a call over its id, the time and its body. */
    private void sign(HttpRequest.Builder request, Map<String, String> headers, byte[] body) {
        Instant now = clock.instant();
        try {
            String signature = new WebhookSignature(
                            setting(profile.authentication().key()))
                    .sign(headers.getOrDefault("webhook-id", ""), now, body);
            request.setHeader("webhook-timestamp", Long.toString(now.getEpochSecond()))
                    .setHeader("webhook-signature", signature);
        } catch (IllegalArgumentException e) {
            throw new DestinationProblem(Kind.SIGN_IN_REFUSED, "The signing secret is not Base64 behind whsec_.");
        }
    }

    private void signed(HttpRequest.Builder request) {
        var how = profile.authentication();
        switch (how.kind()) {
            case "oauth2-client-credentials" ->
                request.header("Authorization", "Bearer " + token.orElseGet(this::signIn));
            case "api-key" -> request.header(how.header().orElse("Authorization"), setting(how.key()));
            default -> {
                // the address itself is the secret
            }
        }
    }

    private String setting(Optional<String> name) {
        return name.map(this::setting).orElse("");
    }

    /** A connection setting; blank when nobody filled it in. */
    String setting(String name) {
        return settings.getOrDefault(name, "");
    }

    private synchronized String signIn() {
        if (token.isPresent()) {
            return token.get();
        }
        var how = profile.authentication();
        String pair = setting(how.clientId()) + ":" + setting(how.clientSecret());
        Reply reply = exchange(
                HttpRequest.newBuilder(address(how.tokenPath().orElse("/")))
                        .header(
                                "Authorization",
                                "Basic " + Base64.getEncoder().encodeToString(pair.getBytes(StandardCharsets.UTF_8)))
                        .header("Content-Type", "application/x-www-form-urlencoded")
                        .POST(HttpRequest.BodyPublishers.ofString("grant_type=client_credentials")),
                true);
        String issued = reply.body().path("access_token").asString("");
        if (reply.status() == 400 || reply.status() == 401) {
            throw new DestinationProblem(
                    Kind.SIGN_IN_REFUSED,
                    profile.title() + " refused to sign in: the client id or its secret is wrong.");
        }
        if (reply.status() >= 300 || issued.isEmpty()) {
            throw new NotSentFailure("signing in answered " + reply.status());
        }
        token = Optional.of(issued);
        return issued;
    }

    private Reply exchange(HttpRequest.Builder request, boolean answerRead) {
        pace.await();
        try {
            HttpResponse<byte[]> response = http.send(
                    request.timeout(Duration.ofSeconds(profile.limits().longestCallSeconds()))
                            .build(),
                    HttpResponse.BodyHandlers.ofByteArray());
            Optional<Duration> retryAfter = response.headers()
                    .firstValue("Retry-After")
                    .filter(text -> text.matches("\\d{1,6}"))
                    .map(text -> Duration.ofSeconds(Long.parseLong(text)));
            if (response.statusCode() == 429) {
                pace.pause(retryAfter.orElse(Duration.ofSeconds(1)));
            }
            return new Reply(
                    response.statusCode(),
                    parse(response, answerRead),
                    new String(response.body(), StandardCharsets.UTF_8),
                    retryAfter);
        } catch (ConnectException e) {
            throw new NotSentFailure("nobody answers at " + settings.getOrDefault("base_address", ""));
        } catch (HttpTimeoutException e) {
            throw new UnknownFailure("no answer within " + profile.limits().longestCallSeconds() + " s");
        } catch (IOException e) {
            throw new UnknownFailure("the connection was lost: " + e.getMessage());
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new UnknownFailure("stopped while waiting for the answer");
        }
    }

    private JsonNode parse(HttpResponse<byte[]> response, boolean answerRead) {
        try {
            JsonNode tree = json.readTree(response.body());
            return tree.isMissingNode() ? json.createObjectNode() : tree;
        } catch (JacksonException e) {
            if (response.statusCode() < 300 && answerRead) {
                throw new UnknownFailure(
                        "the answer is not JSON: " + shorten(new String(response.body(), StandardCharsets.UTF_8)));
            }
            return json.createObjectNode();
        }
    }

    /** The full address of a path, if calls to it are allowed. */
    URI address(String path) {
        URI address = URI.create(settings.getOrDefault("base_address", "").replaceAll("/+$", "") + path);
        try {
            guard.check(address);
        } catch (IllegalArgumentException e) {
            throw new DestinationProblem(Kind.REFUSED, String.valueOf(e.getMessage()));
        }
        return address;
    }

    /** What the tool says is wrong, in its words. */
    String problem(Reply reply) {
        return profile.problemMessage()
                .map(at -> reply.body().at(JsonPointer.compile(at)).asString(""))
                .filter(text -> !text.isEmpty())
                .orElse(shorten(reply.text()));
    }

    void pauseAll(Duration length) {
        pace.pause(length);
    }

    static void waitFor(Duration length) {
        try {
            Thread.sleep(length.toMillis());
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new DestinationProblem(Kind.UNREACHABLE, "stopped while waiting to try again");
        }
    }

    static String shorten(String text) {
        return text.length() > 200 ? text.substring(0, 200) + "..." : text;
    }
}
