package remitto.core.audience;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import java.math.BigDecimal;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.stream.LongStream;
import org.junit.jupiter.api.Test;
import remitto.core.audience.Measure.Aggregation;
import remitto.core.value.Value;

class MeasuresAndScoresTest {
    private static final Window.Now NOW =
            new Window.Now(Instant.parse("2026-11-25T10:00:00Z"), ZoneId.of("Europe/Oslo"));

    /** A passenger with a handful of trips, one of them just before midnight in Oslo. */
    private static final Facts TRAVELLER = new EventFacts(
            "Trips",
            List.of(
                    trip(1, "2026-11-02T08:00:00Z", "TAR", "120.50"),
                    trip(2, "2026-11-10T22:59:00Z", "TAR", "80"),
                    trip(3, "2026-11-10T23:01:00Z", "YTR", ""),
                    trip(4, "2026-11-12T09:00:00Z", "SAN", "99.50"),
                    trip(5, "2026-11-24T12:00:00Z", "TAR", "10")));

    private static Facts.Event trip(long number, String at, String line, String price) {
        return new Facts.Event(
                number,
                Instant.parse(at),
                price.isEmpty()
                        ? Map.of("line", Value.text(line))
                        : Map.of("line", Value.text(line), "price", Value.number(new BigDecimal(price))));
    }

    private static Value worked(Aggregation how) {
        return new InMemory(NOW)
                .measure(new Measure(new EventsOf("Trips", List.of()), new Window.Ever(), how), TRAVELLER);
    }

    @Test
    void valuesAreWorkedOutOverTheEventsThatHaveOne() {
        assertThat(worked(new Aggregation.CountOf())).isEqualTo(Value.number(5));
        assertThat(worked(new Aggregation.SumOf("price"))).isEqualTo(Value.number(310));
        assertThat(worked(new Aggregation.AverageOf("price"))).isEqualTo(Value.number(new BigDecimal("77.5")));
        assertThat(worked(new Aggregation.SmallestOf("price"))).isEqualTo(Value.number(10));
        assertThat(worked(new Aggregation.LargestOf("price"))).isEqualTo(Value.number(new BigDecimal("120.5")));
        assertThat(worked(new Aggregation.DistinctOf("line"))).isEqualTo(Value.number(3));
        assertThat(worked(new Aggregation.FirstOf("line"))).isEqualTo(Value.text("TAR"));
        assertThat(worked(new Aggregation.LastOf("price"))).isEqualTo(Value.number(10));
        assertThat(worked(new Aggregation.ShareOf(
                        List.of(new EventsOf.EventTest("line", new ValueTest.OneOf(List.of("TAR")))))))
                .isEqualTo(Value.number(60));
    }

    @Test
    void daysAndRunsAreThoseOfTheZone() {
        // 22:59 UTC is one minute before midnight in Oslo, 23:01 one minute after.
        assertThat(worked(new Aggregation.Streak(Span.DAY))).isEqualTo(Value.number(3));
        assertThat(worked(new Aggregation.Streak(Span.WEEK))).isEqualTo(Value.number(2));
        assertThat(worked(new Aggregation.Streak(Span.MONTH))).isEqualTo(Value.number(1));
        assertThat(worked(new Aggregation.DaysSince())).isEqualTo(Value.number(1));
        assertThat(worked(new Aggregation.FirstDay())).isEqualTo(new Value.Day(LocalDate.of(2026, 11, 2)));
        assertThat(worked(new Aggregation.LastDay())).isEqualTo(new Value.Day(LocalDate.of(2026, 11, 24)));
    }

    @Test
    void whoDidNothingHasNoneOfSomeAndNothingOfOthers() {
        EventsOf none = new EventsOf("Other", List.of());
        InMemory memory = new InMemory(NOW);
        assertThat(memory.measure(new Measure(none, new Window.Ever(), new Aggregation.CountOf()), TRAVELLER))
                .isEqualTo(Value.number(0));
        assertThat(memory.measure(new Measure(none, new Window.Ever(), new Aggregation.DaysSince()), TRAVELLER))
                .isEqualTo(Value.EMPTY);
        Condition fewer = new Condition.MeasureHolds(
                new Measure(none, new Window.Ever(), new Aggregation.CountOf()),
                new ValueTest.NumberIs(ValueTest.Relation.UNDER, BigDecimal.valueOf(5)));
        assertThat(memory.holds(fewer, TRAVELLER)).isTrue();
    }

    @Test
    void thatNothingFollowedIsSaidOnlyOnceTheDaysAreOver() {
        assertThat(followed("2026-11-12", 12, true)).isFalse();
        assertThat(followed("2026-11-12", 11, true)).isTrue();
        // The day after the last has begun, so the 24th may still be followed until the end of the 26th.
        assertThat(followed("2026-11-24", 2, true)).isFalse();
        assertThat(followed("2026-11-24", 0, true)).isTrue();
        assertThat(followed("2026-11-12", 12, false)).isTrue();
        assertThat(followed("2026-11-12", 11, false)).isFalse();
    }

    private static boolean followed(String day, int days, boolean none) {
        LocalDate on = LocalDate.parse(day);
        EventsOf trips = new EventsOf("Trips", List.of());
        return new InMemory(NOW)
                .holds(new Condition.EventThen(trips, new Window.FromTo(on, on), trips, days, none), TRAVELLER);
    }

    /**
     * Fifths by rank, the best fifth scored 5, as recency, frequency and monetary value are coded by exact quintiles (A. M.
     * Hughes, Strategic Database Marketing, chapter on recency, frequency and monetary analysis; the method from memory).
     */
    @Test
    void withoutTiesAScoreCutsEqualFifths() {
        long[] spent = LongStream.rangeClosed(1, 25).map(n -> n * 37 % 101).toArray();
        List<Integer> bands = bands(spent, 5, true);
        for (int band = 1; band <= 5; band++) {
            int wanted = band;
            assertThat(bands.stream().filter(one -> one == wanted)).hasSize(5);
        }
        int best = indexOfLargest(spent);
        assertThat(bands.get(best)).isEqualTo(5);
        assertThat(bands(spent, 5, false).get(best)).isEqualTo(1);
    }

    /**
     * Against pandas 3.1: {@code numpy.ceil(5 * Series([...]).rank(method="max", pct=True))}, worked out once and written down
     * here.
     */
    @Test
    void tiesShareABand() {
        assertThat(bands(new long[] {1, 1, 1, 1, 1, 1, 2, 3, 4, 5}, 5, true))
                .containsExactly(3, 3, 3, 3, 3, 3, 4, 4, 5, 5);
        assertThat(bands(new long[] {0, 0, 7, 7, 7, 9, 12}, 5, true)).containsExactly(2, 2, 4, 4, 4, 5, 5);
        assertThat(bands(new long[] {4, 4, 4}, 5, true)).containsExactly(5, 5, 5);
    }

    private static List<Integer> bands(long[] values, int bands, boolean largest) {
        Derivation.Score score = new Derivation.Score("spent", bands, largest);
        List<Integer> all = new ArrayList<>();
        for (long value : values) {
            long noBetter = Arrays.stream(values)
                    .filter(other -> largest ? other <= value : other >= value)
                    .count();
            all.add(score.band(noBetter, values.length));
        }
        return all;
    }

    private static int indexOfLargest(long[] values) {
        int at = 0;
        for (int i = 1; i < values.length; i++) {
            at = values[i] > values[at] ? i : at;
        }
        return at;
    }

    @Test
    void boundsGoUp() {
        Measure measure = new Measure(new EventsOf("Trips", List.of()), new Window.Ever(), new Aggregation.DaysSince());
        assertThatThrownBy(() -> new Derivation.OverEvents(
                        measure, "UTC", List.of(BigDecimal.valueOf(30), BigDecimal.valueOf(7))))
                .hasMessage("Bounds go up: 30 is not below 7.");
    }

    @Test
    void aControlGroupIsTheSamePeopleWheneverItIsDrawn() {
        ControlGroup tenth = new ControlGroup(BigDecimal.TEN, "spring");
        List<Long> one =
                LongStream.range(0, 20_000).filter(tenth::keepsOut).boxed().toList();
        assertThat(one.size() / 20_000.0).isCloseTo(0.1, within(0.01));
        assertThat(LongStream.range(0, 20_000)
                        .filter(new ControlGroup(BigDecimal.TEN, "spring")::keepsOut)
                        .boxed())
                .isEqualTo(one);
        assertThat(LongStream.range(0, 20_000)
                        .filter(new ControlGroup(BigDecimal.TEN, "autumn")::keepsOut)
                        .boxed())
                .isNotEqualTo(one);
        assertThat(LongStream.range(0, 1_000).anyMatch(ControlGroup.none()::keepsOut))
                .isFalse();
        assertThatThrownBy(() -> new ControlGroup(BigDecimal.valueOf(51), "")).isInstanceOf(AudienceFault.class);
    }

    @Test
    void aSampleSaysByHowMuchItMayBeOff() {
        SampleMargin margin = new SampleMargin(10_000, 1_000_000);
        assertThat(margin.estimate(2_500)).isEqualTo(250_000);
        // 1.96 * sqrt(0.25 * 0.75 / 10000) = 0.85 per cent of a million, less one hundredth drawn.
        assertThat(margin.of(2_500)).isBetween(8_300L, 8_600L);
        assertThat(margin.of(0)).isBetween(300L, 500L);
        assertThat(new SampleMargin(500, 500).of(250)).isZero();
        assertThat(new SampleMargin(0, 500).of(0)).isEqualTo(500);
    }
}
