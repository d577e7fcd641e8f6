package remitto.server.secret;

import java.security.GeneralSecurityException;
import java.security.MessageDigest;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import javax.crypto.spec.SecretKeySpec;

/**
 * The keys of a key file: 32 bytes each, one after the other. The first seals; the others are there while values are sealed again, and
 * open what they sealed. A key is known by the first four bytes of the SHA-256 of itself behind a word of ours.
 */
final class KeyRing {
    static final int KEY_BYTES = 32;
    static final int ID_BYTES = 4;
    private static final int MOST = 8;

    private final List<Key> keys;

    private KeyRing(List<Key> keys) {
        this.keys = List.copyOf(keys);
    }

    /** @param id by which sealed values name it */
    record Key(byte[] id, SecretKeySpec spec) {
        static Key of(byte[] bytes) {
            return new Key(id(bytes), new SecretKeySpec(bytes, "AES"));
        }

        private static byte[] id(byte[] bytes) {
            try {
                MessageDigest digest = MessageDigest.getInstance("SHA-256");
                digest.update("remitto key id".getBytes(java.nio.charset.StandardCharsets.US_ASCII));
                return Arrays.copyOf(digest.digest(bytes), ID_BYTES);
            } catch (GeneralSecurityException e) {
                throw new IllegalStateException("SHA-256 is part of every Java runtime", e);
            }
        }
    }

    static boolean fits(int bytes) {
        return bytes >= KEY_BYTES && bytes <= MOST * KEY_BYTES && bytes % KEY_BYTES == 0;
    }

    /** @param bytes of a key file, of a length that {@link #fits} */
    static KeyRing of(byte[] bytes) {
        if (!fits(bytes.length)) {
            throw new IllegalArgumentException("a key file holds keys of " + KEY_BYTES + " bytes");
        }
        List<Key> keys = new ArrayList<>();
        for (int from = 0; from < bytes.length; from += KEY_BYTES) {
            keys.add(Key.of(Arrays.copyOfRange(bytes, from, from + KEY_BYTES)));
        }
        return new KeyRing(keys);
    }

    Key first() {
        return keys.get(0);
    }

    List<Key> all() {
        return keys;
    }

    Optional<Key> find(byte[] id) {
        return keys.stream().filter(key -> Arrays.equals(key.id(), id)).findFirst();
    }
}
