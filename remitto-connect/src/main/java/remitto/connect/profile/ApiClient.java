package remitto.connect.profile;

import java.net.URI;
import java.net.http.HttpRequest;
import java.time.Duration;
import java.util.HashMap;
import java.util.Map;
import java.util.Optional;
import remitto.connect.destination.DestinationProblem;
import remitto.connect.destination.DestinationProblem.Kind;
import remitto.connect.destination.Leave;
import remitto.connect.destination.RateLimit;
import remitto.connect.signin.Login;
import remitto.connect.signin.SignIn;
import remitto.connect.signin.TokenCalls;
import remitto.core.delivery.Backoff;
import tools.jackson.core.JsonPointer;

/** Makes the calls of a profile, signed in, and again where that does no harm. Safe to share between threads. */
final class ApiClient {
    /** Tools that let one sign-in in at a time end ours whenever another server of ours, or another thread, signs in. */
    private static final int RENEWALS = 3;

    private final Profile profile;
    private final Login login;
    private final HttpTransport transport;
    private final SignIn signIn;
    private final Backoff backoff;

    ApiClient(
            Profile profile, Login login, CallTools tools, RateLimit rateLimit, Backoff backoff, CallWatcher watcher) {
        this.profile = profile;
        this.login = login;
        this.transport = new HttpTransport(profile, login, tools, rateLimit, watcher);
        this.signIn = SignIns.of(profile, login, transport, tools.clock());
        this.backoff = backoff;
    }

    /** A call that may be made as often as needed, until it succeeds or all tries are used up. */
    Reply reading(String method, String path, Optional<byte[]> body) {
        Reply reply = readingAny(method, path, body);
        if (reply.status() >= 300) {
            throw refused(method, path, reply);
        }
        return reply;
    }

    /** The same for one thing that need not be there (404, 410). */
    Optional<Reply> readingIfThere(String method, String path, Optional<byte[]> body) {
        Reply reply = readingAny(method, path, body);
        if (reply.status() == 404 || reply.status() == 410) {
            return Optional.empty();
        }
        if (reply.status() >= 300) {
            throw refused(method, path, reply);
        }
        return Optional.of(reply);
    }

    private DestinationProblem refused(String method, String path, Reply reply) {
        return new DestinationProblem(
                reply.status() == 401 ? Kind.SIGN_IN_REFUSED : Kind.REFUSED,
                profile.title() + " refused " + method + " " + path + " (" + reply.status() + "): " + problem(reply));
    }

    /** The last answer: one that is no error, or an error that does not pass by itself. */
    private Reply readingAny(String method, String path, Optional<byte[]> body) {
        String last = "";
        int renewals = 0;
        for (int attempt = 1; attempt <= backoff.tries(); attempt++) {
            try {
                Answered answered = once(method, path, body, Map.of(), true, Leave.ALWAYS);
                Reply reply = answered.reply();
                if (reply.status() < 300) {
                    return reply;
                }
                if (reply.status() == 401 && renewals++ < RENEWALS) {
                    renewed(answered.used());
                    continue;
                }
                if (!profile.retriable(reply.status())) {
                    return reply;
                }
                last = reply.status() + ", " + problem(reply);
                waitFor(reply.retryAfter().orElse(backoff.pause(attempt, Math.random())));
            } catch (CallFailure e) {
                last = String.valueOf(e.getMessage());
                waitFor(backoff.pause(attempt, Math.random()));
            }
        }
        throw new DestinationProblem(
                Kind.UNREACHABLE, profile.title() + " could not be read after " + backoff.tries() + " tries: " + last);
    }

    /**
     * A call that is made once; only a token that ran out is renewed, and again when somebody else's sign-in ended it meanwhile.
     *
     * @param answerRead the answer says something that is needed, so that one that is not JSON is no answer
     */
    Reply writing(
            String method, String path, byte[] body, Map<String, String> headers, boolean answerRead, Leave leave) {
        Answered answered = once(method, path, Optional.of(body), headers, answerRead, leave);
        for (int renewals = 0;
                answered.reply().status() == 401 && renewals < RENEWALS && renewed(answered.used());
                renewals++) {
            answered = once(method, path, Optional.of(body), headers, answerRead, leave);
        }
        return answered.reply();
    }

    private boolean renewed(String used) {
        try {
            return signIn.renew(used);
        } catch (TokenCalls.NoTokenFailure | CallFailure e) {
            throw new CallFailure.NotSent(String.valueOf(e.getMessage()));
        }
    }

    /** @param used what the call was let in with */
    private record Answered(Reply reply, String used) {}

    private Answered once(
            String method,
            String path,
            Optional<byte[]> body,
            Map<String, String> headers,
            boolean answerRead,
            Leave leave) {
        byte[] bytes = body.orElse(new byte[0]);
        HttpRequest.Builder request = HttpRequest.newBuilder(address(path))
                .header("Content-Type", "application/json")
                .method(
                        method,
                        body.map(HttpRequest.BodyPublishers::ofByteArray).orElse(HttpRequest.BodyPublishers.noBody()));
        Map<String, String> all = new HashMap<>();
        profile.headers()
                .ifPresent(fixed -> fixed.forEach((name, value) -> {
                    String filled = Template.settings(value, login.settings());
                    if (!filled.isBlank()) {
                        all.put(name, filled);
                    }
                }));
        all.putAll(headers);
        all.forEach(request::setHeader);
        String used = signed(request, all, bytes);
        return new Answered(transport.send(request, bytes, answerRead, leave), used);
    }

    /** Signing in calls the tool too; whatever becomes of that, the call itself was not made. */
    private String signed(HttpRequest.Builder request, Map<String, String> headers, byte[] body) {
        try {
            return signIn.sign(request, headers, body);
        } catch (TokenCalls.NoTokenFailure | CallFailure e) {
            throw new CallFailure.NotSent(String.valueOf(e.getMessage()));
        }
    }

    /** A connection setting; blank when nobody filled it in. */
    String setting(String name) {
        return login.setting(name);
    }

    /** The full address of a path, if calls to it are allowed. */
    URI address(String path) {
        return transport.address(path);
    }

    /** What the tool says is wrong, in its words. */
    String problem(Reply reply) {
        return profile.problemMessage()
                .map(at -> reply.body().at(JsonPointer.compile(at)).asString(""))
                .filter(text -> !text.isEmpty())
                .orElse(shorten(reply.text()));
    }

    void pauseAll(Duration length) {
        transport.pauseAll(length);
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
