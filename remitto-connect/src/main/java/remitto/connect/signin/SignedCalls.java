package remitto.connect.signin;

import java.net.http.HttpRequest;
import java.time.Clock;
import java.time.Instant;
import java.util.Map;
import remitto.connect.destination.DestinationProblem;
import remitto.connect.destination.DestinationProblem.Kind;

/** Signs every call over its id, the time and its body, as the Standard Webhooks specification says. */
public final class SignedCalls implements SignIn {
    private final String secret;
    private final Clock clock;

    public SignedCalls(String secret, Clock clock) {
        this.secret = secret;
        this.clock = clock;
    }

    @Override
    public String sign(HttpRequest.Builder request, Map<String, String> headers, byte[] body) {
        Instant now = clock.instant();
        try {
            String signature = new WebhookSignature(secret).sign(headers.getOrDefault("webhook-id", ""), now, body);
            request.setHeader("webhook-timestamp", Long.toString(now.getEpochSecond()))
                    .setHeader("webhook-signature", signature);
            return "";
        } catch (IllegalArgumentException e) {
            throw new DestinationProblem(Kind.SIGN_IN_REFUSED, "The signing secret is not Base64 behind whsec_.");
        }
    }
}
