package remitto.core.timetable;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.time.Instant;
import java.time.LocalTime;
import java.time.ZoneId;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.IntRange;
import net.jqwik.api.constraints.LongRange;

class ScheduleProperties {
    private static final String[] ZONES = {"Europe/Oslo", "America/New_York", "Australia/Lord_Howe", "UTC"};

    @Property
    void theNextDepartureIsLaterAndWithinADayAndAnHour(
            @ForAll @LongRange(min = 1_600_000_000L, max = 1_900_000_000L) long at,
            @ForAll @IntRange(max = 1439) int minute,
            @ForAll @IntRange(max = 3) int zone) {
        Instant after = Instant.ofEpochSecond(at);
        Schedule daily = new Schedule.Daily(LocalTime.of(minute / 60, minute % 60), ZONES[zone]);
        Instant next = daily.next(after).orElseThrow();
        assertThat(next).isAfter(after).isBeforeOrEqualTo(after.plus(Duration.ofHours(25)));
        assertThat(daily.next(next.minusMillis(1))).as("nothing lies between").contains(next);
    }

    @Property
    void departuresOfOneDayAreOnOneDate(
            @ForAll @LongRange(min = 1_600_000_000L, max = 1_900_000_000L) long at,
            @ForAll @IntRange(max = 1439) int minute,
            @ForAll @IntRange(max = 3) int zone) {
        ZoneId id = ZoneId.of(ZONES[zone]);
        Schedule daily = new Schedule.Daily(LocalTime.of(minute / 60, minute % 60), ZONES[zone]);
        Instant first = daily.next(Instant.ofEpochSecond(at)).orElseThrow();
        Instant second = daily.next(first).orElseThrow();
        assertThat(second.atZone(id).toLocalDate())
                .isEqualTo(first.atZone(id).toLocalDate().plusDays(1));
    }
}
