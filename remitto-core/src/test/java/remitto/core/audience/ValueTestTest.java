package remitto.core.audience;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.junit.jupiter.params.provider.Arguments.argumentSet;

import java.math.BigDecimal;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.List;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.MethodSource;
import remitto.core.dataset.ColumnType;
import remitto.core.value.Value;

/** Where a bound lies: common practice, no source. */
class ValueTestTest {
    private static final Window.Now NOW =
            new Window.Now(Instant.parse("2026-03-29T00:30:00Z"), ZoneId.of("Europe/Oslo"));

    static Stream<Arguments> numbers() {
        return Stream.of(
                argumentSet("over 75 leaves out 75", ValueTest.Relation.OVER, "75", "75", false),
                argumentSet("over 75 takes a little more", ValueTest.Relation.OVER, "75", "75.0000001", true),
                argumentSet("more than 30 employees leaves out 30", ValueTest.Relation.OVER, "30", "30", false),
                argumentSet("more than 30 employees takes 31", ValueTest.Relation.OVER, "30", "31", true),
                argumentSet("fewer than 5 leaves out 5", ValueTest.Relation.UNDER, "5", "5", false),
                argumentSet("fewer than 5 takes 4", ValueTest.Relation.UNDER, "5", "4", true),
                argumentSet("at least 12 takes 12", ValueTest.Relation.AT_LEAST, "12", "12", true),
                argumentSet("at most 12 takes 12.0", ValueTest.Relation.AT_MOST, "12", "12.0", true),
                argumentSet("exactly 1 takes 1.00", ValueTest.Relation.EXACTLY, "1", "1.00", true));
    }

    @ParameterizedTest
    @MethodSource("numbers")
    void aBoundLiesWhereItsWordSays(ValueTest.Relation relation, String bound, String value, boolean holds) {
        assertThat(new ValueTest.NumberIs(relation, new BigDecimal(bound))
                        .holds(Value.number(new BigDecimal(value)), NOW))
                .isEqualTo(holds);
    }

    static Stream<Arguments> windows() {
        LocalDate february = LocalDate.of(2026, 2, 1);
        return Stream.of(
                argumentSet(
                        "on or after 1 February includes its first moment in Oslo",
                        new Window.OnOrAfter(february),
                        "2026-01-31T23:00:00Z",
                        true),
                argumentSet(
                        "and nothing before it", new Window.OnOrAfter(february), "2026-01-31T22:59:59.999999Z", false),
                argumentSet(
                        "before 1 February leaves it out", new Window.Earlier(february), "2026-01-31T23:00:00Z", false),
                argumentSet(
                        "between two days includes the end of the last",
                        new Window.FromTo(february, LocalDate.of(2026, 2, 3)),
                        "2026-02-03T22:59:59.999999Z",
                        true),
                argumentSet(
                        "and not the day after",
                        new Window.FromTo(february, LocalDate.of(2026, 2, 3)),
                        "2026-02-03T23:00:00Z",
                        false),
                argumentSet("the last 0 days are today", new Window.LastDays(0), "2026-03-28T23:00:00Z", true),
                argumentSet("of the zone, not of UTC", new Window.LastDays(0), "2026-03-28T22:59:59Z", false),
                argumentSet("now itself is in the last days", new Window.LastDays(3), "2026-03-29T00:30:00Z", true),
                argumentSet("what is to come is not", new Window.LastDays(3), "2026-03-29T00:31:00Z", false),
                argumentSet("hours are exact", new Window.LastHours(2), "2026-03-28T22:30:00Z", true),
                argumentSet("to the moment", new Window.LastHours(2), "2026-03-28T22:29:59Z", false),
                argumentSet(
                        "a day on which the clock springs forward has 23 hours",
                        new Window.Whole(Span.DAY, 0),
                        "2026-03-29T21:59:59Z",
                        true),
                argumentSet("and ends then", new Window.Whole(Span.DAY, 0), "2026-03-29T22:00:00Z", false),
                argumentSet("weeks begin on Monday", new Window.Whole(Span.WEEK, 0), "2026-03-22T23:00:00Z", true),
                argumentSet("this week", new Window.Whole(Span.WEEK, 0), "2026-03-22T22:59:59Z", false),
                argumentSet("the month before this one", new Window.Whole(Span.MONTH, 1), "2026-01-31T23:00:00Z", true),
                argumentSet("a year back", new Window.Whole(Span.YEAR, 1), "2025-12-31T22:59:59Z", true));
    }

    @ParameterizedTest
    @MethodSource("windows")
    void daysAreThoseOfTheZone(Window window, String at, boolean within) {
        assertThat(window.at(NOW).contains(Instant.parse(at))).isEqualTo(within);
    }

    @Test
    void anEmptyValuePassesOnlyTheTestForIt() {
        for (Value none : List.of(Value.EMPTY, Value.MISSING, Value.text("  "))) {
            assertThat(new ValueTest.HasNone().holds(none, NOW)).isTrue();
            for (ValueTest test : List.of(
                    new ValueTest.HasValue(),
                    new ValueTest.OneOf(List.of("")),
                    new ValueTest.Contains(""),
                    new ValueTest.NumberIs(ValueTest.Relation.UNDER, BigDecimal.TEN),
                    new ValueTest.DayWithin(new Window.Ever()),
                    new ValueTest.TruthIs(false))) {
                assertThat(test.holds(none, NOW)).as("%s of %s", test, none).isFalse();
            }
        }
    }

    @Test
    void anAnniversaryComesRoundEveryYearAlsoOverNewYearAndOnALeapDay() {
        Window.Now eve = new Window.Now(Instant.parse("2026-12-30T12:00:00Z"), ZoneId.of("UTC"));
        assertThat(new ValueTest.ComesRound(3).holds(day(1980, 1, 2), eve)).isTrue();
        assertThat(new ValueTest.ComesRound(2).holds(day(1980, 1, 2), eve)).isFalse();
        assertThat(new ValueTest.ComesRound(0).holds(day(1980, 12, 30), eve)).isTrue();
        Window.Now march = new Window.Now(Instant.parse("2027-03-01T12:00:00Z"), ZoneId.of("UTC"));
        assertThat(new ValueTest.ComesRound(0).holds(day(2000, 2, 29), march)).isTrue();
    }

    private static Value day(int year, int month, int day) {
        return new Value.Day(LocalDate.of(year, month, day));
    }

    @Test
    void aTestIsAskedOnlyOfWhatItCanTell() {
        assertThatThrownBy(() -> new ValueTest.NumberIs(ValueTest.Relation.OVER, BigDecimal.ONE)
                        .check("home_port", ColumnType.TEXT))
                .isInstanceOf(AudienceFault.class)
                .hasMessage("\"home_port\" is a text; this test is for a number.");
        assertThatThrownBy(() -> new ValueTest.OneOf(List.of())).hasMessage("Choose at least one value.");
    }
}
