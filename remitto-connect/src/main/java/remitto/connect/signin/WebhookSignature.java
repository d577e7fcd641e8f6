package remitto.connect.signin;

import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.Base64;
import org.apache.commons.codec.digest.HmacAlgorithms;
import org.apache.commons.codec.digest.HmacUtils;

/**
 * Signs calls as the Standard Webhooks specification says: HMAC-SHA-256 over id, seconds and body, in Base64, under a
 * secret that is itself Base64 behind {@code whsec_}.
 */
public final class WebhookSignature {
    private static final String PREFIX = "whsec_";

    private final HmacUtils hmac;

    /** @throws IllegalArgumentException if the secret is not Base64 */
    public WebhookSignature(String secret) {
        String text = secret.startsWith(PREFIX) ? secret.substring(PREFIX.length()) : secret;
        byte[] key = Base64.getDecoder().decode(text);
        this.hmac = new HmacUtils(HmacAlgorithms.HMAC_SHA_256, key);
    }

    /** The value of the header {@code webhook-signature}. */
    public String sign(String id, Instant at, byte[] body) {
        byte[] start = (id + "." + at.getEpochSecond() + ".").getBytes(StandardCharsets.UTF_8);
        byte[] signed = new byte[start.length + body.length];
        System.arraycopy(start, 0, signed, 0, start.length);
        System.arraycopy(body, 0, signed, start.length, body.length);
        return "v1," + Base64.getEncoder().encodeToString(hmac.hmac(signed));
    }
}
