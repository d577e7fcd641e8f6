package remitto.core.consent;

import org.apache.commons.codec.digest.HmacAlgorithms;
import org.apache.commons.codec.digest.HmacUtils;

/**
 * What stays of somebody who was erased: HMAC-SHA256 (RFC 2104, FIPS 180-4) of a record's key or of an address, as lower-case
 * hexadecimal. Whoever has not the key can neither read it nor try addresses against it. Not safe to share between threads.
 */
public final class ErasureMark {
    private final HmacUtils mac;

    public ErasureMark(byte[] key) {
        this.mac = new HmacUtils(HmacAlgorithms.HMAC_SHA_256, key);
    }

    /** Of a record of a dataset, by its key. */
    public String ofRecord(long dataset, String key) {
        return mac.hmacHex("record " + dataset + " " + key);
    }

    /** @param hash of the normalised address, see {@link AddressHash} */
    public String ofAddress(String hash) {
        return mac.hmacHex("address " + hash);
    }
}
