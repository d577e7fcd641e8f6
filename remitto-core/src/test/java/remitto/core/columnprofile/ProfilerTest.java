package remitto.core.columnprofile;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.HashSet;
import java.util.List;
import java.util.Random;
import java.util.Set;
import java.util.stream.IntStream;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.IntRange;
import net.jqwik.api.constraints.Size;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.EnumSource;
import org.junit.jupiter.params.provider.ValueSource;
import remitto.core.dataset.Column;
import remitto.core.dataset.ColumnRole;
import remitto.core.dataset.ColumnType;

class ProfilerTest {
    private static ColumnProfile inRole(ColumnType type, ColumnRole role, @Nullable String... cells) {
        Profiler profiler = new Profiler(List.of(new Column("c", type, role)));
        for (String cell : cells) {
            profiler.see(new String[] {cell});
        }
        return profiler.profile().columns().get(0);
    }

    private static ColumnProfile of(ColumnType type, @Nullable String... cells) {
        return inRole(type, ColumnRole.ATTRIBUTE, cells);
    }

    private static String[] times(int times, String text) {
        return IntStream.range(0, times).mapToObj(i -> text).toArray(String[]::new);
    }

    private static String[] numbers(int from, int to) {
        return IntStream.range(from, to).mapToObj(Integer::toString).toArray(String[]::new);
    }

    private static long rows(ColumnProfile profile) {
        return profile.histogram().stream().mapToLong(HistogramBin::rows).sum();
    }

    @Test
    void absentAndBlankCellsAreEmpty() {
        ColumnProfile profile = of(ColumnType.TEXT, null, "", "   ", "Brevik");

        assertThat(profile.empty()).isEqualTo(3);
        assertThat(profile.distinct()).isEqualTo(1);
        assertThat(profile.shortest()).contains(6);
        assertThat(profile.longest()).contains(6);
    }

    @Test
    void nothingIsToldOfAColumnWithoutRows() {
        ColumnProfile profile = of(ColumnType.DECIMAL);

        assertThat(profile.distinct()).isZero();
        assertThat(profile.least()).isEmpty();
        assertThat(profile.greatest()).isEmpty();
        assertThat(profile.histogram()).isEmpty();
        assertThat(profile.commonest()).isEmpty();
    }

    @ParameterizedTest
    @CsvSource({
        "INTEGER, 9, 10, 100, 9, 100",
        "INTEGER, -3, 2, -20, -20, 2",
        "DECIMAL, 2.50, 10.1, -0.5, -0.5, 10.1",
        "DATE, 2026-03-01, 1999-12-31, 2024-02-29, 1999-12-31, 2026-03-01",
        "TIMESTAMP, 2026-03-01 10:00:00+02, 2026-03-01 09:30:00+00, 2026-03-01 08:30:00+00, 2026-03-01 10:00:00+02, 2026-03-01 09:30:00+00"
    })
    void theLeastAndTheGreatestAreFoundByValueAndToldAsSpelled(
            ColumnType type, String one, String other, String third, String least, String greatest) {
        ColumnProfile profile = of(type, one, other, third);

        assertThat(profile.least()).contains(least);
        assertThat(profile.greatest()).contains(greatest);
    }

    @ParameterizedTest
    @CsvSource({"INTEGER, twelve", "DECIMAL, 1.2.3", "DATE, 2026-02-30", "DATE, infinity", "TIMESTAMP, soon"})
    void cellsThatAreNotOfTheirTypeAreCounted(ColumnType type, String cell) {
        ColumnProfile profile = of(type, cell);

        assertThat(profile.unreadable()).isEqualTo(1);
        assertThat(profile.least()).isEmpty();
        assertThat(profile.histogram()).isEmpty();
    }

    @Test
    void aValueOfFewRowsIsNotKept() {
        assertThat(of(ColumnType.TEXT, times(ColumnProfile.FEW - 1, "Ada")).commonest())
                .isEmpty();
        assertThat(of(ColumnType.TEXT, times(ColumnProfile.FEW, "Ada")).commonest())
                .containsExactly(new CommonValue("Ada", 10));
    }

    @ParameterizedTest
    @EnumSource(names = {"SENSITIVE", "KEY", "IDENTIFIER"})
    void noValueOfAColumnThatTellsWhoSomebodyIsIsKept(ColumnRole role) {
        ColumnProfile profile = inRole(ColumnType.INTEGER, role, times(50, "7"));

        assertThat(profile.commonest()).isEmpty();
        assertThat(profile.least()).isEmpty();
        assertThat(profile.greatest()).isEmpty();
        assertThat(profile.histogram()).isEmpty();
        assertThat(profile.distinct()).isEqualTo(1);
    }

    @Test
    void longTextsAreToldApartAndNotShown() {
        String[] cells = IntStream.range(0, 60)
                .mapToObj(i -> "a".repeat(5_000) + (i % 3))
                .toArray(String[]::new);

        ColumnProfile profile = of(ColumnType.TEXT, cells);

        assertThat(profile.distinct()).isEqualTo(3);
        assertThat(profile.commonest()).isEmpty();
        assertThat(profile.longest()).contains(5_001);
    }

    /** Their beginnings are. */
    @Test
    void longTextsAreNotKept() {
        Profiler profiler = new Profiler(List.of(new Column("c", ColumnType.TEXT, ColumnRole.ATTRIBUTE)));
        RowSample sample = new RowSample(5_000);
        String tail = "b".repeat(20_000);
        for (int i = 0; i < 20_000; i++) {
            String[] cells = {i + tail};
            profiler.see(cells);
            sample.see(cells);
        }

        assertThat(sample.rows())
                .allSatisfy(cells -> assertThat(String.valueOf(cells[0])).hasSizeLessThan(400));
        assertThat((double) profiler.profile().columns().get(0).distinct()).isCloseTo(20_000, within(1_000.0));
    }

    @ParameterizedTest
    @ValueSource(strings = {"a\0b", "a\ud800b"})
    void aTextThatCannotBeWrittenDownIsCountedAndNotShown(String text) {
        ColumnProfile profile = of(ColumnType.TEXT, times(20, text));

        assertThat(profile.distinct()).isEqualTo(1);
        assertThat(profile.commonest()).isEmpty();
    }

    @Test
    void manyColumnsShareTheMemoryOfAHundred() {
        List<Column> columns = IntStream.range(0, 2_000)
                .mapToObj(i -> new Column("c" + i, ColumnType.INTEGER, ColumnRole.ATTRIBUTE))
                .toList();
        Profiler profiler = new Profiler(columns);
        String[] cells = new String[columns.size()];
        for (int row = 0; row < 1_000; row++) {
            java.util.Arrays.fill(cells, String.valueOf(row));
            profiler.see(cells);
        }

        ColumnProfile last = profiler.profile().column("c1999").orElseThrow();

        assertThat(last.distinctExact()).isFalse();
        assertThat((double) last.distinct()).isCloseTo(1_000, within(50.0));
    }

    @Test
    void theCommonestComeFirstAndEquallyCommonOnesByTheirSpelling() {
        String[] cells = IntStream.range(0, 45)
                .mapToObj(i -> i < 20 ? "sun" : i < 35 ? (i % 3 == 0 ? "fog" : "rain") : "calm")
                .toArray(String[]::new);

        assertThat(of(ColumnType.TEXT, cells).commonest())
                .extracting(CommonValue::text)
                .containsExactly("sun", "calm", "rain");
    }

    /** The reference counts by a set. Four standard errors are passed once in 16,000 times. */
    @ParameterizedTest
    @ValueSource(ints = {200, 201, 1_000, 10_000, 10_001, 20_000, 300_000})
    void theNumberOfDifferentValuesIsExactWhileTheyAreFewAndCloseWhenTheyAreMany(int values) {
        Random random = new Random(values);
        Set<String> reference = new HashSet<>();
        Profiler profiler = new Profiler(List.of(new Column("c", ColumnType.TEXT, ColumnRole.ATTRIBUTE)));
        for (int i = 0; i < 2 * values; i++) {
            String cell = "guest " + random.nextInt(values);
            reference.add(cell);
            profiler.see(new String[] {cell});
        }

        ColumnProfile profile = profiler.profile().columns().get(0);

        assertThat(profile.distinctExact()).isEqualTo(reference.size() <= 10_000);
        if (profile.distinctExact()) {
            assertThat(profile.distinct()).isEqualTo(reference.size());
        } else {
            assertThat((double) profile.distinct()).isCloseTo(reference.size(), within(4 * 0.0122 * reference.size()));
        }
    }

    @Test
    void noMoreDifferentValuesAreToldThanThereAreRows() {
        for (int from = 0; from < 160_000; from += 10_000) {
            ColumnProfile profile = of(ColumnType.TEXT, numbers(from, from + 10_500));

            assertThat(profile.distinctExact()).isFalse();
            assertThat(profile.distinct()).isLessThanOrEqualTo(10_500);
        }
    }

    @Property(tries = 200)
    void everyValueIsCountedOnceAndLiesInItsRange(
            @ForAll @Size(min = 1, max = 300) List<@IntRange(min = -1_000, max = 1_000) Integer> numbers) {
        ColumnProfile profile =
                of(ColumnType.INTEGER, numbers.stream().map(String::valueOf).toArray(String[]::new));
        int least = numbers.stream().min(Integer::compare).orElseThrow();
        int greatest = numbers.stream().max(Integer::compare).orElseThrow();

        assertThat(rows(profile)).isEqualTo(numbers.size());
        assertThat(profile.histogram().get(0).from()).isEqualTo(String.valueOf(least));
        assertThat(profile.histogram().get(profile.histogram().size() - 1).to()).isEqualTo(String.valueOf(greatest));
        assertThat(profile.histogram()).hasSizeLessThanOrEqualTo(12);
    }

    @Test
    void evenlySpreadNumbersFillTheRangesEvenly() {
        ColumnProfile profile = of(ColumnType.INTEGER, numbers(0, 1_200));

        assertThat(profile.histogram()).hasSize(12).allSatisfy(bin -> assertThat(bin.rows())
                .isBetween(85L, 115L));
    }

    @Test
    void oneFarValueDoesNotMakeAllOthersOneBar() {
        String[] cells = numbers(0, 1_000);
        cells[999] = "999999999";

        ColumnProfile profile = of(ColumnType.INTEGER, cells);

        assertThat(profile.greatest()).contains("999999999");
        assertThat(profile.histogram()).allSatisfy(bin -> assertThat(bin.rows()).isLessThan(200));
    }

    @Test
    void datesHaveNoMoreRangesThanThereAreDays() {
        assertThat(of(ColumnType.DATE, "2026-11-01", "2026-11-02", "2026-11-03", "2026-11-04")
                        .histogram())
                .extracting(HistogramBin::from)
                .containsExactly("2026-11-01", "2026-11-02", "2026-11-03");
        assertThat(of(ColumnType.DATE, "2026-11-01", "2026-11-01").histogram())
                .containsExactly(new HistogramBin("2026-11-01", "2026-11-01", 2));
    }

    /** Three quarters of 200,000 rows hold one of many texts: the share is estimated from the sample, and everything sums up to the rows. */
    @Test
    void whatIsCommonAmongManyValuesIsEstimatedFromTheSample() {
        Random random = new Random(4);
        Profiler profiler = new Profiler(List.of(
                new Column("town", ColumnType.TEXT, ColumnRole.ATTRIBUTE),
                new Column("score", ColumnType.DECIMAL, ColumnRole.ATTRIBUTE)));
        for (int i = 0; i < 200_000; i++) {
            profiler.see(new String[] {i % 4 == 0 ? "town " + i : "Brevik", Double.toString(random.nextGaussian())});
        }

        ReadProfile profile = profiler.profile();
        ColumnProfile town = profile.column("town").orElseThrow();

        assertThat(profile.rows()).isEqualTo(200_000);
        assertThat(town.commonestExact()).isFalse();
        assertThat(town.commonest()).hasSize(1);
        assertThat((double) town.commonest().get(0).rows()).isCloseTo(150_000, within(6_000.0));
        ColumnProfile score = profile.column("score").orElseThrow();
        assertThat((double) rows(score)).isCloseTo(200_000, within(20.0));
        assertThat(score.histogram().get(5).rows() + score.histogram().get(6).rows())
                .as("the middle of a normal distribution")
                .isGreaterThan(score.histogram().get(0).rows()
                        + score.histogram().get(11).rows());
    }

    /** Each row is equally likely in the sample: first and last rows as often as any, over 400 samples. */
    @Test
    void everyRowIsAsLikelyInTheSample() {
        int rows = 400;
        long early = 0;
        long all = 0;
        for (int shift = 0; shift < 400; shift++) {
            RowSample sample = new RowSample(20);
            for (int i = 0; i < rows; i++) {
                // Every shift begins elsewhere, since the sample draws the same places each time.
                sample.see(new String[] {String.valueOf((i + shift) % rows)});
            }
            early += sample.rows().stream()
                    .filter(cells -> Integer.parseInt(String.valueOf(cells[0])) < rows / 4)
                    .count();
            all += sample.rows().size();
        }

        assertThat(all).isEqualTo(400 * 20);
        assertThat((double) early / all).isCloseTo(0.25, within(0.02));
    }

    @Test
    void theSampleReachesTheLastRows() {
        RowSample sample = new RowSample(1_000);
        for (int i = 0; i < 100_000; i++) {
            sample.see(new String[] {String.valueOf(i)});
        }

        long late = sample.rows().stream()
                .filter(cells -> Integer.parseInt(String.valueOf(cells[0])) >= 50_000)
                .count();

        assertThat((double) late)
                .as("half of 1,000, with a standard deviation of 16")
                .isCloseTo(500, within(64.0));
        assertThat(sample.scale()).isEqualTo(100);
    }
}
