package remitto.core.fieldrule;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalTime;
import java.time.ZoneId;
import java.time.ZonedDateTime;
import java.time.zone.ZoneOffsetTransition;
import java.time.zone.ZoneRules;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.MethodSource;
import remitto.core.fieldrule.Timing.Answer;
import remitto.core.fieldrule.Timing.DailyWindow;

class TimingTest {
    private static final Instant NOW = Instant.parse("2026-11-25T10:00:00Z");

    private static Timing every(int hours) {
        return new Timing(hours, Optional.empty(), Optional.empty(), Optional.empty(), "Europe/Oslo", "");
    }

    private static Timing window(String from, String to, String zone) {
        return new Timing(
                0,
                Optional.of(new DailyWindow(LocalTime.parse(from), LocalTime.parse(to))),
                Optional.empty(),
                Optional.empty(),
                zone,
                "");
    }

    private static Answer at(Timing timing, Instant now) {
        return timing.at(now, Optional.empty(), Optional.empty(), 0);
    }

    @Test
    void atMostDailyWaitsUntilADayHasPassedSinceTheLastWrite() {
        Instant written = NOW.minus(Duration.ofHours(2));
        Answer answer = every(24).at(NOW, Optional.of(written), Optional.empty(), 0);
        assertThat(answer)
                .isEqualTo(new Answer.Waits(
                        Optional.of(written.plus(Duration.ofHours(24))), "waits: written 2 h ago, at most daily"));
        assertThat(every(24).at(written.plus(Duration.ofHours(24)), Optional.of(written), Optional.empty(), 0))
                .isEqualTo(new Answer.Goes());
        assertThat(at(every(24), NOW)).as("never written before").isEqualTo(new Answer.Goes());
    }

    @ParameterizedTest
    @CsvSource({
        "08:00, 12:00, 2026-11-25T06:59:59Z, false",
        "08:00, 12:00, 2026-11-25T07:00:00Z, true",
        "08:00, 12:00, 2026-11-25T10:59:59Z, true",
        "08:00, 12:00, 2026-11-25T11:00:00Z, false",
        "22:00, 06:00, 2026-11-25T21:00:00Z, true",
        "22:00, 06:00, 2026-11-25T04:59:59Z, true",
        "22:00, 06:00, 2026-11-25T05:00:00Z, false",
        "22:00, 06:00, 2026-11-25T12:00:00Z, false"
    })
    void aDailyWindowHoldsItsBeginningAndNotItsEnd(String from, String to, Instant now, boolean goes) {
        Answer answer = at(window(from, to, "Europe/Oslo"), now);
        if (goes) {
            assertThat(answer).isInstanceOf(Answer.Goes.class);
        } else {
            assertThat(answer).isInstanceOfSatisfying(Answer.Waits.class, waits -> assertThat(
                            waits.until().orElseThrow())
                    .isAfter(now));
        }
    }

    @Test
    void daysBeginAtMidnightInTheZone() {
        Timing timing = new Timing(
                0,
                Optional.empty(),
                Optional.of(LocalDate.of(2026, 12, 1)),
                Optional.of(LocalDate.of(2026, 12, 24)),
                "Europe/Oslo",
                "");
        assertThat(at(timing, Instant.parse("2026-11-30T22:59:59Z")))
                .isEqualTo(new Answer.Waits(
                        Optional.of(Instant.parse("2026-11-30T23:00:00Z")), "waits: not written before 1 Dec 2026"));
        assertThat(at(timing, Instant.parse("2026-11-30T23:00:00Z"))).isEqualTo(new Answer.Goes());
        assertThat(at(timing, Instant.parse("2026-12-24T22:59:59Z"))).isEqualTo(new Answer.Goes());
        assertThat(at(timing, Instant.parse("2026-12-24T23:00:00Z")))
                .isEqualTo(new Answer.Over("not written after 24 Dec 2026"));
    }

    @Test
    void onlyWithAnotherColumnComparesWithTheLastWrite() {
        Timing timing = new Timing(0, Optional.empty(), Optional.empty(), Optional.empty(), "UTC", "confirmed_on");
        assertThat(timing.at(NOW, Optional.of(NOW), Optional.of(7L), 7))
                .isEqualTo(new Answer.Waits(Optional.empty(), "waits: written only when confirmed_on changes"));
        assertThat(timing.at(NOW, Optional.of(NOW), Optional.of(7L), 8)).isEqualTo(new Answer.Goes());
        assertThat(timing.at(NOW, Optional.empty(), Optional.empty(), 7)).isEqualTo(new Answer.Goes());
    }

    static Stream<ZoneOffsetTransition> everyChangeOfThreeZones() {
        List<ZoneOffsetTransition> changes = new ArrayList<>();
        for (String zone : List.of("Europe/Oslo", "America/St_Johns", "Australia/Lord_Howe")) {
            ZoneRules rules = ZoneId.of(zone).getRules();
            Instant at = Instant.parse("2020-01-01T00:00:00Z");
            while (at.isBefore(Instant.parse("2030-01-01T00:00:00Z"))) {
                ZoneOffsetTransition next = rules.nextTransition(at);
                changes.add(next);
                at = next.getInstant();
            }
        }
        return changes.stream();
    }

    /** Changes of the clocks as the tz database has them, by way of the platform. */
    @ParameterizedTest
    @MethodSource("everyChangeOfThreeZones")
    void aWindowOpensOnceADayWhateverTheClocksDo(ZoneOffsetTransition change) {
        ZoneId zone = Stream.of("Europe/Oslo", "America/St_Johns", "Australia/Lord_Howe")
                .map(ZoneId::of)
                .filter(one -> change.equals(
                        one.getRules().nextTransition(change.getInstant().minusSeconds(1))))
                .findFirst()
                .orElseThrow();
        for (String from : List.of("00:00", "01:30", "02:00", "02:15", "03:00", "23:30")) {
            String to = LocalTime.parse(from).plusHours(2).toString();
            Timing timing = window(from, to, zone.getId());
            Instant now = change.getInstant().minus(Duration.ofDays(2));
            Instant end = change.getInstant().plus(Duration.ofDays(2));
            while (now.isBefore(end)) {
                Answer answer = at(timing, now);
                if (answer instanceof Answer.Waits waits) {
                    Instant until = waits.until().orElseThrow();
                    assertThat(until).isAfter(now);
                    assertThat(Duration.between(now, until)).isLessThanOrEqualTo(Duration.ofHours(25));
                    ZonedDateTime opens = until.atZone(zone);
                    boolean skipped = zone.getRules()
                            .getValidOffsets(opens.toLocalDate().atTime(LocalTime.parse(from)))
                            .isEmpty();
                    if (!skipped) {
                        assertThat(opens.toLocalTime()).isEqualTo(LocalTime.parse(from));
                        assertThat(at(timing, until)).isEqualTo(new Answer.Goes());
                    }
                }
                now = now.plus(Duration.ofMinutes(15));
            }
        }
    }

    @Test
    void theSentenceSaysAllOfIt() {
        Timing timing = new Timing(
                48,
                Optional.of(new DailyWindow(LocalTime.of(22, 0), LocalTime.of(6, 0))),
                Optional.of(LocalDate.of(2026, 12, 1)),
                Optional.empty(),
                "Europe/Oslo",
                "confirmed_on");
        assertThat(timing.sentence())
                .isEqualTo(", at most every 2 days, only between 22:00 and 06:00 (Europe/Oslo), not before 1 Dec 2026,"
                        + " only when confirmed_on changes");
    }
}
