package remitto.core.value;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.time.LocalDate;
import java.time.OffsetDateTime;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.IntRange;
import net.jqwik.api.constraints.LongRange;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class SqlTimeTest {
    private static final DateTimeFormatter SQL = DateTimeFormatter.ofPattern("uuuu-MM-dd HH:mm:ss");

    @Property
    void whatIsSpelledOutIsReadBack(
            @ForAll @LongRange(min = -60_000_000_000L, max = 250_000_000_000L) long second,
            @ForAll @IntRange(max = 999_999) int micros,
            @ForAll @IntRange(min = -56, max = 56) int quarters) {
        Instant instant = Instant.ofEpochSecond(second, micros * 1_000L);
        ZoneOffset offset = ZoneOffset.ofTotalSeconds(quarters * 900);
        OffsetDateTime there = instant.atOffset(offset);
        String zone = quarters == 0 ? "+00" : offset.getId().replace(":00", "");
        String spelled = SQL.format(there) + (micros == 0 ? "" : String.format(".%06d", micros)) + zone;
        assertThat(SqlTime.moment(spelled)).as(spelled).contains(instant);
        assertThat(SqlTime.day(there.toLocalDate().toString())).contains(there.toLocalDate());
    }

    @ParameterizedTest
    @CsvSource({
        "2026-11-25 10:00:00, 2026-11-25T10:00:00Z",
        "2026-11-25 10:00:00.5+05:30, 2026-11-25T04:30:00.5Z",
        "2026-11-25 10:00:00-03, 2026-11-25T13:00:00Z"
    })
    void commonSpellings(String text, Instant expected) {
        assertThat(SqlTime.moment(text)).contains(expected);
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "2026-11-25T10:00:00Z",
                "2026-11-25 10:00",
                "2026-13-25 10:00:00",
                "2026-02-30 10:00:00",
                "2026-11-25 25:00:00",
                "2026-11-25 10:00:00 UTC",
                "2026-11-25 10:00:00+1",
                "2026-11-25 10:00:00+19:00",
                "not a time at all yes"
            })
    void everyOtherSpellingIsLeftToOthers(String text) {
        assertThat(SqlTime.moment(text)).isEmpty();
    }

    @ParameterizedTest
    @ValueSource(strings = {"2026-02-30", "25.11.2026", "26-11-2025", "2026/11/25"})
    void noDay(String text) {
        assertThat(SqlTime.day(text)).isEmpty();
        assertThat(SqlTime.day(LocalDate.of(2026, 2, 28).toString())).isPresent();
    }
}
