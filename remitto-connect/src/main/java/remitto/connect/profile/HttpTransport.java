package remitto.connect.profile;

import java.io.IOException;
import java.net.URI;
import java.net.http.HttpRequest;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.List;
import remitto.connect.destination.DestinationProblem;
import remitto.connect.destination.DestinationProblem.Kind;
import remitto.connect.destination.Leave;
import remitto.connect.destination.RateLimit;
import remitto.connect.outgoing.HttpAnswer;
import remitto.connect.outgoing.HttpCalls;
import remitto.connect.outgoing.RefusedAddress;
import remitto.connect.signin.Exchanger;
import remitto.connect.signin.Login;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.JsonNode;

/** Single calls: paced, to allowed addresses, with their answers read. Safe to share between threads. */
final class HttpTransport implements Exchanger {
    private static final int LARGEST_ANSWER = 64 * 1024 * 1024;

    private final Profile profile;
    private final Login login;
    private final CallTools tools;
    private final RateLimit rateLimit;
    private final CallWatcher watcher;

    HttpTransport(Profile profile, Login login, CallTools tools, RateLimit rateLimit, CallWatcher watcher) {
        this.profile = profile;
        this.login = login;
        this.tools = tools;
        this.rateLimit = rateLimit;
        this.watcher = watcher;
    }

    /** The full address of a path, with settings filled in, if calls to it are allowed. */
    @Override
    public URI address(String path) {
        String filled = Template.settings(path, login.settings());
        boolean full = filled.startsWith("http://") || filled.startsWith("https://");
        String base = login.setting("base_address").replaceAll("/+$", "");
        try {
            URI address = URI.create(full ? filled : base + filled);
            tools.guard().check(address);
            return address;
        } catch (IllegalArgumentException e) {
            throw new DestinationProblem(Kind.REFUSED, String.valueOf(e.getMessage()));
        }
    }

    @Override
    public Answer exchange(HttpRequest.Builder request) {
        Reply reply = send(request, new byte[0], false);
        return new Answer(reply.status(), reply.text());
    }

    /** @param answerRead the answer says something that is needed, so that one that is not JSON is no answer */
    Reply send(HttpRequest.Builder builder, byte[] body, boolean answerRead) {
        return send(builder, body, answerRead, Leave.ALWAYS);
    }

    /** @param leave asked when the wait is over; without it the call is not made */
    Reply send(HttpRequest.Builder builder, byte[] body, boolean answerRead, Leave leave) {
        HttpRequest request = builder.build();
        if (!watcher.calling(request, body)) {
            throw new CallFailure.NotSent("the call is shown, not made");
        }
        rateLimit.await();
        if (!leave.holds()) {
            throw new CallFailure.NotSent("this process was not heard of for too long");
        }
        long start = System.nanoTime();
        try {
            Reply reply = reply(tools.http()
                    .send(request, Duration.ofSeconds(profile.limits().longestCallSeconds()), LARGEST_ANSWER));
            watcher.answered(request, reply, Duration.ofNanos(System.nanoTime() - start));
            if (reply.status() == 429) {
                rateLimit.pause(reply.retryAfter().orElse(Duration.ofSeconds(1)));
            }
            if (answerRead && reply.status() < 300 && reply.body().isMissingNode()) {
                throw new CallFailure.Unknown("the answer is not JSON: " + ApiClient.shorten(reply.text()));
            }
            return reply;
        } catch (RefusedAddress e) {
            throw new DestinationProblem(Kind.REFUSED, String.valueOf(e.getMessage()));
        } catch (HttpCalls.NoConnection e) {
            throw new CallFailure.NotSent("nothing answers at " + login.setting("base_address"));
        } catch (HttpCalls.TooLate e) {
            throw new CallFailure.Unknown("no answer within " + profile.limits().longestCallSeconds() + " s");
        } catch (IOException e) {
            throw new CallFailure.Unknown("the connection was lost: " + e.getMessage());
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new CallFailure.Unknown("stopped while waiting for the answer");
        }
    }

    private Reply reply(HttpAnswer answer) {
        return new Reply(
                answer.status(),
                answer.headers(),
                parse(answer.body()),
                new String(answer.body(), StandardCharsets.UTF_8),
                answer.headers().getOrDefault("retry-after", List.of()).stream()
                        .findFirst()
                        .flatMap(text -> RetryAfter.read(text, tools.clock().instant())));
    }

    /** An empty object for an empty answer, a missing node for one that is not JSON. */
    private JsonNode parse(byte[] body) {
        try {
            JsonNode tree = tools.json().readTree(body);
            return tree.isMissingNode() ? tools.json().createObjectNode() : tree;
        } catch (JacksonException e) {
            return tools.json().missingNode();
        }
    }

    void pauseAll(Duration length) {
        rateLimit.pause(length);
    }
}
