package remitto.server.access;

import com.eatthepath.otp.TimeBasedOneTimePasswordGenerator;
import java.security.InvalidKeyException;
import java.time.Duration;
import java.time.Instant;
import java.util.OptionalLong;
import java.util.stream.LongStream;
import javax.crypto.spec.SecretKeySpec;

/**
 * Time-based one-time passwords (RFC 6238) with steps of 30 seconds from the Unix epoch on.
 *
 * @param digits of a code
 * @param algorithm name of the MAC, such as {@link TimeBasedOneTimePasswordGenerator#TOTP_ALGORITHM_HMAC_SHA1}
 */
record OneTimeCodes(int digits, String algorithm) {
    /** What every authenticator reads: six digits by HMAC-SHA-1, the defaults of the RFC. */
    static final OneTimeCodes USUAL = new OneTimeCodes(6, TimeBasedOneTimePasswordGenerator.TOTP_ALGORITHM_HMAC_SHA1);

    static final Duration STEP = Duration.ofSeconds(30);
    /** RFC 6238, section 5.2: one step for the delay of the network; one more way for clocks that go fast. */
    private static final int TOLERATED_STEPS = 1;

    String at(byte[] secret, Instant time) {
        try {
            return new TimeBasedOneTimePasswordGenerator(STEP, digits, algorithm)
                    .generateOneTimePasswordString(new SecretKeySpec(secret, algorithm), time);
        } catch (InvalidKeyException e) {
            throw new IllegalStateException("the secret is no key for " + algorithm, e);
        }
    }

    /**
     * The step whose code this is.
     *
     * @param after the last step that was used; it and those before it are worth nothing any more
     */
    OptionalLong stepOf(byte[] secret, String code, Instant now, long after) {
        long current = now.getEpochSecond() / STEP.toSeconds();
        return LongStream.rangeClosed(current - TOLERATED_STEPS, current + TOLERATED_STEPS)
                .filter(step -> step > after)
                .filter(step -> at(secret, Instant.ofEpochSecond(step * STEP.toSeconds()))
                        .equals(code))
                .findFirst();
    }
}
