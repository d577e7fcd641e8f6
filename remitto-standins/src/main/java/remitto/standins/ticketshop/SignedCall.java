package remitto.standins.ticketshop;

import java.net.URI;
import java.net.http.HttpRequest;
import java.nio.charset.StandardCharsets;
import java.security.GeneralSecurityException;
import java.time.Instant;
import java.util.Base64;
import javax.crypto.Mac;
import javax.crypto.spec.SecretKeySpec;

/** A call that says what happened here, signed as Standard Webhooks says (version 1.0.0). */
public final class SignedCall {
    private static final String PREFIX = "whsec_";

    private final URI address;
    private final byte[] key;

    /** @param secret {@code whsec_} and base64 */
    public SignedCall(URI address, String secret) {
        this.address = address;
        this.key = Base64.getDecoder().decode(secret.substring(PREFIX.length()));
    }

    /**
     * The call of one event.
     *
     * @param id of the event, the same whenever it is sent again
     * @param body JSON
     */
    public HttpRequest of(String id, String body, Instant now) {
        String stamp = Long.toString(now.getEpochSecond());
        return HttpRequest.newBuilder(address)
                .header("Content-Type", "application/json")
                .header("webhook-id", id)
                .header("webhook-timestamp", stamp)
                .header("webhook-signature", "v1," + signature(id + "." + stamp + "." + body))
                .POST(HttpRequest.BodyPublishers.ofString(body))
                .build();
    }

    private String signature(String text) {
        try {
            Mac mac = Mac.getInstance("HmacSHA256");
            mac.init(new SecretKeySpec(key, "HmacSHA256"));
            return Base64.getEncoder().encodeToString(mac.doFinal(text.getBytes(StandardCharsets.UTF_8)));
        } catch (GeneralSecurityException e) {
            throw new IllegalStateException("every Java platform has HMAC with SHA-256", e);
        }
    }
}
