package remitto.core.receiver;

import java.security.GeneralSecurityException;
import javax.crypto.Mac;
import javax.crypto.spec.SecretKeySpec;

/** A digest that signatures are made with. */
public enum Digest {
    SHA1("HmacSHA1"),
    SHA256("HmacSHA256"),
    SHA512("HmacSHA512");

    private final String algorithm;

    Digest(String algorithm) {
        this.algorithm = algorithm;
    }

    /** The HMAC (RFC 2104) of the parts, one after another. */
    byte[] hmac(byte[] key, byte[]... parts) {
        try {
            Mac mac = Mac.getInstance(algorithm);
            mac.init(new SecretKeySpec(key, algorithm));
            for (byte[] part : parts) {
                mac.update(part);
            }
            return mac.doFinal();
        } catch (GeneralSecurityException e) {
            throw new IllegalStateException("every Java platform has " + algorithm, e);
        }
    }
}
