package remitto.server.secret;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.nio.file.attribute.PosixFilePermissions;
import java.security.GeneralSecurityException;
import java.security.SecureRandom;
import java.util.Arrays;
import java.util.Map;
import javax.crypto.Cipher;
import javax.crypto.Mac;
import javax.crypto.spec.GCMParameterSpec;
import javax.crypto.spec.SecretKeySpec;
import org.springframework.stereotype.Component;
import remitto.server.platform.Json;
import remitto.server.platform.RemittoProperties;

/**
 * Encrypts secrets at rest with AES-256-GCM (NIST SP 800-38D): a random 96-bit nonce, then the sealed bytes. The
 * key lives in a file outside the database. Secrets go in, and out only to the calls that need them.
 */
@Component
public class Secrets {
    private static final int NONCE = 12;
    private static final int TAG_BITS = 128;
    private static final int KEY_BYTES = 32;

    private final SecretKeySpec key;
    private final SecureRandom random = new SecureRandom();
    private final Json json;

    Secrets(RemittoProperties properties, Json json, SealedThings sealed) {
        this.key = new SecretKeySpec(readOrMake(properties.secretKeyFile(), sealed), "AES");
        this.json = json;
    }

    public byte[] seal(Map<String, String> secrets) {
        byte[] nonce = new byte[NONCE];
        random.nextBytes(nonce);
        byte[] sealed = run(Cipher.ENCRYPT_MODE, nonce, json.mapper().writeValueAsBytes(secrets));
        byte[] out = Arrays.copyOf(nonce, NONCE + sealed.length);
        System.arraycopy(sealed, 0, out, NONCE, sealed.length);
        return out;
    }

    @SuppressWarnings("unchecked")
    public Map<String, String> open(byte[] sealed) {
        byte[] plain = run(
                Cipher.DECRYPT_MODE, Arrays.copyOf(sealed, NONCE), Arrays.copyOfRange(sealed, NONCE, sealed.length));
        return json.mapper().readValue(plain, Map.class);
    }

    /** A key for another use, which tells nothing of the key that seals: HMAC-SHA-256 of the use's name (RFC 5869, expand). */
    public byte[] derived(String use) {
        try {
            Mac mac = Mac.getInstance("HmacSHA256");
            mac.init(new SecretKeySpec(key.getEncoded(), "HmacSHA256"));
            return mac.doFinal((use + "\u0001").getBytes(StandardCharsets.UTF_8));
        } catch (GeneralSecurityException e) {
            throw new IllegalStateException("HMAC-SHA-256 is part of every Java runtime", e);
        }
    }

    private byte[] run(int mode, byte[] nonce, byte[] input) {
        try {
            Cipher cipher = Cipher.getInstance("AES/GCM/NoPadding");
            cipher.init(mode, key, new GCMParameterSpec(TAG_BITS, nonce));
            return cipher.doFinal(input);
        } catch (GeneralSecurityException e) {
            throw new IllegalStateException(
                    "A secret cannot be opened: the key file is not the one it was sealed with", e);
        }
    }

    /**
     * A new key is made for a new installation only: with another key than the one it was sealed with, everything in the database would
     * have to be given again, and that is found out at the start and not at the first call.
     */
    private byte[] readOrMake(Path file, SealedThings sealed) {
        try {
            if (Files.exists(file)) {
                byte[] kept = Files.readAllBytes(file);
                if (kept.length != KEY_BYTES) {
                    throw new IllegalStateException(
                            "The key file " + file + " holds " + kept.length + " bytes where a key has " + KEY_BYTES
                                    + ". Put the right file back, from where it is backed up apart from the database.");
                }
                return kept;
            }
            if (sealed.any()) {
                throw new IllegalStateException("The key file " + file
                        + " is missing, and the database holds secrets that were sealed with it. Put the file back, from where"
                        + " it is backed up apart from the database, or set REMITTO_SECRET_KEY_FILE to where it is.");
            }
            byte[] fresh = new byte[KEY_BYTES];
            random.nextBytes(fresh);
            Files.createDirectories(file.toAbsolutePath().getParent());
            Files.createFile(file, PosixFilePermissions.asFileAttribute(PosixFilePermissions.fromString("rw-------")));
            Files.write(file, fresh, StandardOpenOption.WRITE);
            return fresh;
        } catch (IOException e) {
            throw new UncheckedIOException("The key file " + file + " cannot be read or made", e);
        }
    }
}
