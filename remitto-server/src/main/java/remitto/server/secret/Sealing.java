package remitto.server.secret;

import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.security.GeneralSecurityException;
import java.security.SecureRandom;
import java.util.Arrays;
import java.util.Optional;
import javax.crypto.Cipher;
import javax.crypto.spec.GCMParameterSpec;

/**
 * AES-256-GCM (NIST SP 800-38D) with the place of a value as additional data. Sealed bytes are a mark, the id of the key, a random 96-bit
 * nonce, and the sealed value with its 128-bit tag. Values from before had neither mark nor key id nor place; they still open.
 */
final class Sealing {
    private static final byte[] MARK = "rmS2".getBytes(StandardCharsets.US_ASCII);
    private static final int NONCE = 12;
    private static final int TAG_BITS = 128;

    private final KeyRing keys;
    private final SecureRandom random = new SecureRandom();

    Sealing(KeyRing keys) {
        this.keys = keys;
    }

    byte[] seal(Place place, byte[] plain) {
        byte[] nonce = new byte[NONCE];
        random.nextBytes(nonce);
        KeyRing.Key key = keys.first();
        byte[] sealed = run(Cipher.ENCRYPT_MODE, key, nonce, Optional.of(place), plain)
                .orElseThrow(() -> new IllegalStateException("AES-256-GCM is part of every Java runtime"));
        return ByteBuffer.allocate(MARK.length + KeyRing.ID_BYTES + NONCE + sealed.length)
                .put(MARK)
                .put(key.id())
                .put(nonce)
                .put(sealed)
                .array();
    }

    /** @throws IllegalStateException if no key of the file opens it there */
    byte[] open(Place place, byte[] sealed) {
        return marked(place, sealed)
                .or(() -> older(sealed))
                .orElseThrow(
                        () -> new IllegalStateException(
                                "A secret of " + place.table()
                                        + " cannot be opened: the key file is not the one it was sealed with, or it was sealed for another place"));
    }

    private Optional<byte[]> marked(Place place, byte[] sealed) {
        int head = MARK.length + KeyRing.ID_BYTES + NONCE;
        if (sealed.length < head || !Arrays.equals(MARK, Arrays.copyOf(sealed, MARK.length))) {
            return Optional.empty();
        }
        byte[] id = Arrays.copyOfRange(sealed, MARK.length, MARK.length + KeyRing.ID_BYTES);
        byte[] nonce = Arrays.copyOfRange(sealed, MARK.length + KeyRing.ID_BYTES, head);
        byte[] rest = Arrays.copyOfRange(sealed, head, sealed.length);
        return keys.find(id).flatMap(key -> run(Cipher.DECRYPT_MODE, key, nonce, Optional.of(place), rest));
    }

    private Optional<byte[]> older(byte[] sealed) {
        if (sealed.length < NONCE) {
            return Optional.empty();
        }
        byte[] nonce = Arrays.copyOf(sealed, NONCE);
        byte[] rest = Arrays.copyOfRange(sealed, NONCE, sealed.length);
        return keys.all().stream()
                .flatMap(key -> run(Cipher.DECRYPT_MODE, key, nonce, Optional.empty(), rest).stream())
                .findFirst();
    }

    /** @return empty when it does not open */
    private static Optional<byte[]> run(int mode, KeyRing.Key key, byte[] nonce, Optional<Place> place, byte[] input) {
        try {
            Cipher cipher = Cipher.getInstance("AES/GCM/NoPadding");
            cipher.init(mode, key.spec(), new GCMParameterSpec(TAG_BITS, nonce));
            place.ifPresent(one -> cipher.updateAAD(one.bytes()));
            return Optional.of(cipher.doFinal(input));
        } catch (GeneralSecurityException e) {
            return Optional.empty();
        }
    }
}
