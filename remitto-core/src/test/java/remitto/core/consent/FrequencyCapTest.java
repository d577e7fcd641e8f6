package remitto.core.consent;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.time.Duration;
import java.time.Instant;
import java.util.Arrays;
import java.util.List;
import java.util.Random;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** How often somebody is written to: common practice, no source. */
class FrequencyCapTest {
    private static final Instant NOW = Instant.parse("2026-11-20T12:00:00Z");

    /** Hours ago that messages went, and after how many hours from now the next may. */
    @ParameterizedTest
    @CsvSource({
        "2, 7, '', ''",
        "2, 7, '1', ''",
        "2, 7, '1 30', 138",
        "2, 7, '30 1', 138",
        "2, 7, '1 168', ''",
        "2, 7, '1 167', 1",
        "1, 1, '0', 24",
        "1, 1, '24', ''",
        "2, 7, '1 2 30 40', 166",
    })
    void theNextGoesWhenEnoughOfThemAreOver(int most, int days, String ago, String next) {
        List<Instant> sent = Arrays.stream(ago.split(" "))
                .filter(text -> !text.isEmpty())
                .map(text -> NOW.minus(Duration.ofHours(Long.parseLong(text))))
                .toList();
        assertThat(new FrequencyCap(most, days)
                        .until(sent, NOW)
                        .map(at -> Duration.between(NOW, at).toHours() + ""))
                .isEqualTo(Stream.of(next).filter(text -> !text.isEmpty()).findFirst());
    }

    @Test
    void whoeverSendsWhenItIsAllowedNeverSendsTooMuch() {
        Random random = new Random(5);
        for (int world = 0; world < 300; world++) {
            FrequencyCap quiet = new FrequencyCap(1 + random.nextInt(4), 1 + random.nextInt(10));
            List<Instant> sent = new java.util.ArrayList<>();
            Instant now = NOW;
            for (int step = 0; step < 60; step++) {
                now = now.plus(Duration.ofMinutes(random.nextInt(60 * 24)));
                if (quiet.until(sent, now).isEmpty()) {
                    sent.add(now);
                } else {
                    assertThat(quiet.until(sent, quiet.until(sent, now).get()))
                            .as("then it may go")
                            .isEmpty();
                }
                Instant at = now;
                assertThat(sent.stream().filter(one -> one.isAfter(quiet.since(at))))
                        .hasSizeLessThanOrEqualTo(quiet.most());
            }
        }
    }

    @Test
    void itIsAtLeastOneMessageADay() {
        assertThatThrownBy(() -> new FrequencyCap(0, 7)).isInstanceOf(IllegalArgumentException.class);
        assertThatThrownBy(() -> new FrequencyCap(1, 366)).isInstanceOf(IllegalArgumentException.class);
    }
}
