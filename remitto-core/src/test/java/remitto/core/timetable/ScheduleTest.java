package remitto.core.timetable;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.time.DayOfWeek;
import java.time.Instant;
import java.time.LocalTime;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class ScheduleTest {
    /**
     * Days on which clocks change, from the tz database: Oslo 29 March and 25 October 2026, New York 8 March and
     * 1 November 2026, Lord Howe (half an hour) 4 October 2026.
     */
    @ParameterizedTest
    @CsvSource({
        "2026-03-28T12:00:00Z, 02:30, Europe/Oslo, 2026-03-29T01:30:00Z",
        "2026-03-29T01:30:00Z, 02:30, Europe/Oslo, 2026-03-30T00:30:00Z",
        "2026-10-24T12:00:00Z, 02:30, Europe/Oslo, 2026-10-25T00:30:00Z",
        "2026-10-25T00:30:00Z, 02:30, Europe/Oslo, 2026-10-26T01:30:00Z",
        "2026-03-08T00:00:00Z, 02:15, America/New_York, 2026-03-08T07:15:00Z",
        "2026-11-01T05:15:00Z, 01:15, America/New_York, 2026-11-02T06:15:00Z",
        "2026-10-03T00:00:00Z, 02:10, Australia/Lord_Howe, 2026-10-03T15:40:00Z",
        "2026-11-24T05:00:00Z, 06:00, Europe/Oslo, 2026-11-25T05:00:00Z"
    })
    void dailyAcrossClockChanges(Instant after, LocalTime time, String zone, Instant expected) {
        assertThat(new Schedule.Daily(time, zone).next(after)).contains(expected);
    }

    @Test
    void dailyDepartsExactlyOnceOnEveryDayOfAYear() {
        for (String zone : Set.of("Europe/Oslo", "America/New_York", "Australia/Lord_Howe")) {
            Instant at = Instant.parse("2026-01-01T00:00:00Z");
            Instant end = Instant.parse("2027-01-01T00:00:00Z");
            Schedule daily = new Schedule.Daily(LocalTime.of(2, 30), zone);
            int departures = 0;
            for (at = daily.next(at).orElseThrow();
                    at.isBefore(end);
                    at = daily.next(at).orElseThrow()) {
                departures++;
            }
            assertThat(departures).as(zone).isEqualTo(365);
        }
    }

    @Test
    void weeklyOnChosenDays() {
        Schedule weekly =
                new Schedule.Weekly(Set.of(DayOfWeek.MONDAY, DayOfWeek.THURSDAY), LocalTime.of(8, 30), "Europe/Oslo");
        assertThat(weekly.next(Instant.parse("2026-11-24T09:00:00Z"))).contains(Instant.parse("2026-11-26T07:30:00Z"));
        assertThat(weekly.next(Instant.parse("2026-11-26T07:30:00Z"))).contains(Instant.parse("2026-11-30T07:30:00Z"));
        assertThatThrownBy(() -> new Schedule.Weekly(Set.of(), LocalTime.NOON, "UTC"))
                .isInstanceOf(IllegalArgumentException.class);
    }

    @Test
    void everySoManyMinutesStaysInStep() {
        assertThat(new Schedule.Every(20, "UTC").next(Instant.parse("2026-11-24T09:01:07Z")))
                .contains(Instant.parse("2026-11-24T09:20:00Z"));
        assertThat(new Schedule.Every(20, "UTC").next(Instant.parse("2026-11-24T09:20:00Z")))
                .contains(Instant.parse("2026-11-24T09:40:00Z"));
        assertThat(new Schedule.ByHand("UTC").next(Instant.EPOCH)).isEmpty();
        assertThatThrownBy(() -> new Schedule.Every(0, "UTC")).hasMessageContaining("1 to 1440");
    }

    @Test
    void dataThatChangesIsNoMomentButWhatIsThereIsTakenUpAtOnce() {
        Schedule schedule = new Schedule.OnChange("Europe/Oslo");
        Instant set = Instant.parse("2026-12-02T12:00:00Z");
        assertThat(schedule.next(set)).isEmpty();
        assertThat(schedule.begins(set)).contains(set);
        assertThat(new Schedule.ByHand("UTC").begins(set)).isEmpty();
        assertThat(new Schedule.Every(20, "UTC").begins(set)).contains(Instant.parse("2026-12-02T12:20:00Z"));
    }
}
