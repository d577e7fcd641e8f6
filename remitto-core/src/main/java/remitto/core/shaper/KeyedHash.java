package remitto.core.shaper;

import org.apache.commons.codec.digest.HmacAlgorithms;
import org.apache.commons.codec.digest.HmacUtils;

/**
 * HMAC-SHA-256 (RFC 2104, FIPS 198-1) of the text in UTF-8 under a key that never leaves, as 64 hexadecimal digits in
 * lower case.
 *
 * @param key name of the key
 */
public record KeyedHash(String key) implements Shaper {
    @Override
    public String title() {
        return "Keyed hash, " + key;
    }

    @Override
    public boolean hides() {
        return true;
    }

    @Override
    public Step ready(Stores stores) {
        byte[] bytes = stores.key(key).orElseThrow(() -> new IllegalArgumentException("There is no key " + key + "."));
        return (value, row) ->
                PureShaper.text(value, text -> new HmacUtils(HmacAlgorithms.HMAC_SHA_256, bytes).hmacHex(text));
    }
}
