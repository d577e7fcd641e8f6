package remitto.server.secret;

import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.security.GeneralSecurityException;
import java.security.SecureRandom;
import java.util.Map;
import javax.crypto.Mac;
import javax.crypto.spec.SecretKeySpec;
import org.springframework.stereotype.Component;
import remitto.server.platform.Json;
import remitto.server.platform.RemittoProperties;

/**
 * Encrypts secrets at rest, each for the place it is kept in. The key lives in a file outside the database. Secrets go in, and out only
 * to the calls that need them.
 */
@Component
public class Secrets {
    private final KeyRing keys;
    private final Sealing sealing;
    private final Json json;

    Secrets(RemittoProperties properties, Json json, SealedThings sealed) {
        this.keys = KeyRing.of(readOrMake(properties.secretKeyFile(), sealed));
        this.sealing = new Sealing(keys);
        this.json = json;
    }

    /** @param place where it will be kept, and nowhere else */
    public byte[] seal(Place place, Map<String, String> secrets) {
        return sealing.seal(place, json.mapper().writeValueAsBytes(secrets));
    }

    /** @throws IllegalStateException if it was sealed with another key, or for another place */
    @SuppressWarnings("unchecked")
    public Map<String, String> open(Place place, byte[] sealed) {
        return json.mapper().readValue(sealing.open(place, sealed), Map.class);
    }

    /** A key for another use, which tells nothing of the key that seals: HMAC-SHA-256 of the use's name (RFC 5869, expand). */
    public byte[] derived(String use) {
        try {
            Mac mac = Mac.getInstance("HmacSHA256");
            mac.init(new SecretKeySpec(keys.first().spec().getEncoded(), "HmacSHA256"));
            return mac.doFinal((use + "\u0001").getBytes(StandardCharsets.UTF_8));
        } catch (GeneralSecurityException e) {
            throw new IllegalStateException("HMAC-SHA-256 is part of every Java runtime", e);
        }
    }

    /**
     * A new key is made for a new installation only: with another key than the one it was sealed with, everything in the database would
     * have to be given again, and that is found out at the start and not at the first call.
     */
    private static byte[] readOrMake(Path path, SealedThings sealed) {
        KeyFile file = new KeyFile(path);
        return file.read().orElseGet(() -> {
            if (sealed.any()) {
                throw new IllegalStateException("The key file " + path
                        + " is missing, and the database holds secrets that were sealed with it. Put the file back, from where"
                        + " it is backed up apart from the database, or set REMITTO_SECRET_KEY_FILE to where it is.");
            }
            byte[] fresh = new byte[KeyRing.KEY_BYTES];
            new SecureRandom().nextBytes(fresh);
            return file.make(fresh);
        });
    }
}
