package remitto.server.access;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.time.Instant;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class OneTimeCodesTest {
    private static final String DIGITS = "1234567890".repeat(7);
    private static final byte[] SECRET = DIGITS.substring(0, 20).getBytes(StandardCharsets.US_ASCII);
    private static final Instant NOW = Instant.parse("2026-12-01T10:00:10Z");
    private static final long STEP = NOW.getEpochSecond() / 30;

    /** RFC 6238, appendix B; its reference code takes a secret as long as the hash. */
    @ParameterizedTest
    @CsvSource({
        "59, 94287082, 46119246, 90693936",
        "1111111109, 07081804, 68084774, 25091201",
        "1111111111, 14050471, 67062674, 99943326",
        "1234567890, 89005924, 91819424, 93441116",
        "2000000000, 69279037, 90698825, 38618901",
        "20000000000, 65353130, 77737706, 47863826"
    })
    void codesAreThoseOfTheStandard(long seconds, String sha1, String sha256, String sha512) {
        Instant time = Instant.ofEpochSecond(seconds);
        assertThat(code("HmacSHA1", 20, time)).isEqualTo(sha1);
        assertThat(code("HmacSHA256", 32, time)).isEqualTo(sha256);
        assertThat(code("HmacSHA512", 64, time)).isEqualTo(sha512);
    }

    private static String code(String algorithm, int length, Instant time) {
        return new OneTimeCodes(8, algorithm).at(DIGITS.substring(0, length).getBytes(StandardCharsets.US_ASCII), time);
    }

    /** A code is taken in its own step, in the one before and in the one after. */
    @ParameterizedTest
    @CsvSource({"-61, false", "-40, true", "-11, true", "0, true", "19, true", "49, true", "50, false", "300, false"})
    void aClockMayBeOffByOneStep(long seconds, boolean taken) {
        String code = OneTimeCodes.USUAL.at(SECRET, NOW.plusSeconds(seconds));
        assertThat(OneTimeCodes.USUAL.stepOf(SECRET, code, NOW, 0).isPresent()).isEqualTo(taken);
    }

    /** RFC 6238, section 5.2: the verifier must not take a code a second time. */
    @Test
    void aCodeCountsOnce() {
        String code = OneTimeCodes.USUAL.at(SECRET, NOW);
        assertThat(OneTimeCodes.USUAL.stepOf(SECRET, code, NOW, STEP - 1)).hasValue(STEP);
        assertThat(OneTimeCodes.USUAL.stepOf(SECRET, code, NOW, STEP)).isEmpty();
        assertThat(code).hasSize(6);
    }
}
