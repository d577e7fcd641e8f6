package remitto.server.receiver;

import java.security.SecureRandom;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Base64;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.apache.commons.codec.digest.DigestUtils;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import remitto.core.receiver.CallCheck;
import remitto.server.platform.Problem;
import remitto.server.secret.Place;
import remitto.server.secret.Secrets;

/**
 * The secrets of receivers, and the part of their addresses that nobody can guess. A secret that was replaced is taken for a day more,
 * so that the tool can be changed after it.
 */
@Component
class ReceiverSecrets {
    static final Duration OVERLAP = Duration.ofHours(24);

    private static final int CODE_BYTES = 24;
    private static final int SECRET_BYTES = 32;

    private final JdbcClient jdbc;
    private final Secrets secrets;
    private final Clock clock;
    private final SecureRandom random = new SecureRandom();

    ReceiverSecrets(JdbcClient jdbc, Secrets secrets, Clock clock) {
        this.jdbc = jdbc;
        this.secrets = secrets;
        this.clock = clock;
    }

    /**
     * @param code the part of the address
     * @param secret blank where nothing is asked
     * @param former that was replaced; blank if none was
     */
    record Known(String code, String secret, String former, Instant formerUntil) {
        List<String> valid(Instant now) {
            List<String> valid = new ArrayList<>();
            if (!secret.isEmpty()) {
                valid.add(secret);
            }
            if (!former.isEmpty() && now.isBefore(formerUntil)) {
                valid.add(former);
            }
            return valid;
        }
    }

    static byte[] hash(String code) {
        return DigestUtils.sha256(code);
    }

    private String random(int bytes) {
        byte[] drawn = new byte[bytes];
        random.nextBytes(drawn);
        return Base64.getUrlEncoder().withoutPadding().encodeToString(drawn);
    }

    /** The part of an address: 192 bits at random. */
    String code() {
        return random(CODE_BYTES);
    }

    /** A secret as the check takes it. */
    String fresh(CallCheck check) {
        if (check instanceof CallCheck.NothingAsked) {
            return "";
        }
        byte[] drawn = new byte[SECRET_BYTES];
        random.nextBytes(drawn);
        return check instanceof CallCheck.StandardSignature
                ? "whsec_" + Base64.getEncoder().encodeToString(drawn)
                : Base64.getUrlEncoder().withoutPadding().encodeToString(drawn);
    }

    /** @throws Problem if a secret is not what the check takes */
    String given(CallCheck check, Optional<String> given) {
        Optional<String> secret = given.map(String::strip).filter(text -> !text.isEmpty());
        secret.flatMap(check::secretProblem).ifPresent(problem -> {
            throw Problem.invalid(problem);
        });
        return secret.orElseGet(() -> fresh(check));
    }

    byte[] seal(long id, Known known) {
        Map<String, String> parts = new HashMap<>();
        parts.put("code", known.code());
        parts.put("secret", known.secret());
        if (!known.former().isEmpty()) {
            parts.put("former", known.former());
            parts.put("formerUntil", known.formerUntil().toString());
        }
        return secrets.seal(Place.of("receiver", id), parts);
    }

    Known open(long id, byte[] kept) {
        Map<String, String> parts = secrets.open(Place.of("receiver", id), kept);
        return new Known(
                parts.getOrDefault("code", ""),
                parts.getOrDefault("secret", ""),
                parts.getOrDefault("former", ""),
                Optional.ofNullable(parts.get("formerUntil"))
                        .map(Instant::parse)
                        .orElse(Instant.EPOCH));
    }

    Known of(long id) {
        return jdbc.sql("select secret from receiver where id = ?")
                .param(id)
                .query(byte[].class)
                .optional()
                .map(kept -> open(id, kept))
                .orElseThrow(() -> Problem.notFound("receiver " + id));
    }

    /** @param overlap whether the former secret is taken for a while */
    void replace(long id, String secret, boolean overlap) {
        Known before = of(id);
        store(
                id,
                new Known(
                        before.code(),
                        secret,
                        overlap ? before.secret() : "",
                        overlap ? clock.instant().plus(OVERLAP) : Instant.EPOCH));
    }

    /** The former address is gone at once. */
    void move(long id) {
        Known before = of(id);
        store(id, new Known(code(), before.secret(), before.former(), before.formerUntil()));
    }

    private void store(long id, Known known) {
        jdbc.sql("update receiver set secret = ?, code_hash = ? where id = ?")
                .params(seal(id, known), hash(known.code()), id)
                .update();
    }
}
