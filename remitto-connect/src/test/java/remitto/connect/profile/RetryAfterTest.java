package remitto.connect.profile;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.time.Instant;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/** Both forms of RFC 9110, 10.2.3; the date is the RFC's own example. */
class RetryAfterTest {
    private static final Instant NOW = Instant.parse("1999-12-31T23:58:59Z");

    @ParameterizedTest
    @CsvSource(
            delimiter = ';',
            value = {
                "120; PT2M",
                "0; PT0S",
                "99999999; PT15M",
                "999999999999999999; PT15M",
                "Fri, 31 Dec 1999 23:59:59 GMT; PT1M",
                "Fri, 31 Dec 1999 23:00:00 GMT; PT0S",
                "Sat, 31 Dec 2050 23:59:59 GMT; PT15M"
            })
    void secondsAndDatesAreReadAndNobodyIsWaitedForLongerThanABound(String text, Duration wait) {
        assertThat(RetryAfter.read(text, NOW)).contains(wait);
    }

    @ParameterizedTest
    @ValueSource(strings = {"soon", "-5", "1.5", "", "2050-12-31", "99999999999999999999999999"})
    void whatIsNeitherIsNothing(String text) {
        assertThat(RetryAfter.read(text, NOW)).isEmpty();
    }
}
