package remitto.core.fieldrule;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalTime;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** What a timing says of itself and of what waits for it, at the edges of its units. */
class TimingWordsTest {
    private static final Instant NOW = Instant.parse("2026-11-24T09:00:00Z");

    private static Timing every(int hours) {
        return new Timing(hours, Optional.empty(), Optional.empty(), Optional.empty(), "UTC", "");
    }

    @ParameterizedTest
    @CsvSource({
        "PT0S, 1, less than a minute ago, hourly",
        "PT59S, 1, less than a minute ago, hourly",
        "PT60S, 1, 1 min ago, hourly",
        "PT59M59S, 1, 59 min ago, hourly",
        "PT60M, 2, 1 h ago, every 2 hours",
        "PT23H59M, 24, 23 h ago, daily",
        "PT47H, 48, 47 h ago, every 2 days",
        "PT48H, 72, 2 days ago, every 3 days",
        "PT30H, 36, 30 h ago, every 36 hours"
    })
    void howLongAgoAndHowOften(Duration since, int hours, String ago, String often) {
        Timing.Answer answer = every(hours).at(NOW, Optional.of(NOW.minus(since)), Optional.empty(), 0);
        assertThat(answer)
                .isEqualTo(new Timing.Answer.Waits(
                        Optional.of(NOW.minus(since).plus(Duration.ofHours(hours))),
                        "waits: written " + ago + ", at most " + often));
    }

    @ParameterizedTest
    @CsvSource({"1, PT1H", "24, PT24H"})
    void whenTheTimeIsOverItGoes(int hours, Duration since) {
        assertThat(every(hours).at(NOW, Optional.of(NOW.minus(since)), Optional.empty(), 0))
                .isEqualTo(new Timing.Answer.Goes());
    }

    @Test
    void asOftenAsItChangesIsNeverTooOften() {
        assertThat(every(0).at(NOW, Optional.of(NOW.plusSeconds(5)), Optional.empty(), 0))
                .isEqualTo(new Timing.Answer.Goes());
    }

    @Test
    void everyPartIsInTheSentence() {
        assertThat(every(0).sentence()).isEmpty();
        Timing all = new Timing(
                24,
                Optional.of(new Timing.DailyWindow(LocalTime.of(22, 0), LocalTime.of(6, 0))),
                Optional.of(LocalDate.parse("2026-12-01")),
                Optional.of(LocalDate.parse("2026-12-31")),
                "Europe/Oslo",
                "tier");
        assertThat(all.sentence())
                .isEqualTo(", at most daily, only between 22:00 and 06:00 (Europe/Oslo), not before 1 Dec 2026,"
                        + " not after 31 Dec 2026, only when tier changes");
    }
}
