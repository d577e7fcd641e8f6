package remitto.core.audience;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStreamReader;
import java.math.BigDecimal;
import java.math.RoundingMode;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.TreeMap;
import java.util.function.ToLongFunction;
import java.util.zip.GZIPInputStream;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import remitto.core.audience.Measure.Aggregation;
import remitto.core.value.Value;

/**
 * Measures and quintiles over an open dataset of the literature: the purchases of 2,357 customers of a record shop in 1997 and 1998, a
 * tenth of all that began in the first quarter (P. S. Fader and B. G. S. Hardie, Forecasting Repeat Sales at CDNOW, Interfaces
 * 31(3), 2001), as the Python package lifetimes 0.11.3 carries it.
 */
class CdnowTest {
    private static final EventsOf PURCHASES = new EventsOf("Purchases", List.of());
    private static final Window FIRST_39_WEEKS = new Window.FromTo(LocalDate.of(1997, 1, 1), LocalDate.of(1997, 9, 30));
    private static final InMemory WORKED =
            new InMemory(new Window.Now(Instant.parse("1998-07-01T00:00:00Z"), ZoneOffset.UTC));
    private static final BigDecimal WEEK = BigDecimal.valueOf(7);

    private static final Map<String, Facts> CUSTOMERS = new TreeMap<>();

    @BeforeAll
    static void read() throws IOException {
        Map<String, List<Facts.Event>> purchases = new TreeMap<>();
        for (String[] cells : table("transactions")) {
            List<Facts.Event> own = purchases.computeIfAbsent(cells[0], fresh -> new ArrayList<>());
            own.add(new Facts.Event(
                    own.size() + 1L,
                    LocalDate.parse(cells[1]).atStartOfDay(ZoneOffset.UTC).toInstant(),
                    Map.of("day", Value.text(cells[1]), "amount", Value.number(new BigDecimal(cells[2])))));
        }
        purchases.forEach((customer, events) -> CUSTOMERS.put(customer, new EventFacts("Purchases", events)));
    }

    private static List<String[]> table(String name) throws IOException {
        try (BufferedReader lines = new BufferedReader(new InputStreamReader(
                new GZIPInputStream(
                        Objects.requireNonNull(CdnowTest.class.getResourceAsStream("/cdnow/" + name + ".csv.gz"))),
                StandardCharsets.UTF_8))) {
            return lines.lines().skip(1).map(line -> line.split(",")).toList();
        }
    }

    private static Value worked(String customer, Window window, Aggregation how) {
        return WORKED.measure(new Measure(PURCHASES, window, how), CUSTOMERS.get(customer));
    }

    private static LocalDate day(String customer, Window window, Aggregation how) {
        return ((Value.Day) worked(customer, window, how)).day();
    }

    private static BigDecimal weeks(LocalDate from, LocalDate to) {
        return BigDecimal.valueOf(ChronoUnit.DAYS.between(from, to)).divide(WEEK, 2, RoundingMode.HALF_UP);
    }

    /**
     * Source: the summary of the first 39 weeks that the authors give beside their model (Counting Your Customers the Easy Way, Marketing
     * Science 24(2), 2005): repeat purchases by day, weeks from the first to the last, weeks from the first to the end.
     */
    @Test
    void measuresComeToTheSummaryOfTheAuthors() throws IOException {
        List<String[]> published = table("summary");
        assertThat(published).hasSize(2357).hasSize(CUSTOMERS.size());
        for (String[] expected : published) {
            String customer = expected[0];
            LocalDate first = day(customer, FIRST_39_WEEKS, new Aggregation.FirstDay());
            LocalDate last = day(customer, FIRST_39_WEEKS, new Aggregation.LastDay());
            Value days = worked(customer, FIRST_39_WEEKS, new Aggregation.DistinctOf("day"));
            assertThat(((Value.Decimal) days).number().intValueExact() - 1)
                    .as("repeat purchases of customer %s", customer)
                    .isEqualTo(Integer.parseInt(expected[1]));
            assertThat(weeks(first, last))
                    .as("recency of customer %s", customer)
                    .isEqualByComparingTo(expected[2]);
            assertThat(weeks(first, LocalDate.of(1997, 9, 30)))
                    .as("age of customer %s", customer)
                    .isEqualByComparingTo(expected[3]);
        }
    }

    /**
     * Quintiles of recency, frequency and monetary value over all 18 months, against pandas 3.1.1: {@code ceil(5 * rank(method="max")
     * / n)} of the last day, the number of purchases and the sum of cents, worked out once from the same file.
     */
    @Test
    void quintilesOfRecencyFrequencyAndMonetaryValueAreThoseOfTheReference() throws IOException {
        Map<String, Integer> recency = fifths(customer ->
                day(customer, new Window.Ever(), new Aggregation.LastDay()).toEpochDay());
        Map<String, Integer> frequency = fifths(customer -> whole(customer, new Aggregation.CountOf()));
        Map<String, Integer> monetary = fifths(customer -> whole(customer, new Aggregation.SumOf("amount")));
        for (String[] expected : table("quintiles")) {
            String customer = expected[0];
            assertThat(List.of(recency.get(customer), frequency.get(customer), monetary.get(customer)))
                    .as("customer %s", customer)
                    .containsExactly(
                            Integer.valueOf(expected[1]), Integer.valueOf(expected[2]), Integer.valueOf(expected[3]));
        }
    }

    /** In hundredths, so that amounts are whole. */
    private static long whole(String customer, Aggregation how) {
        return ((Value.Decimal) worked(customer, new Window.Ever(), how))
                .number()
                .movePointRight(2)
                .longValueExact();
    }

    private static Map<String, Integer> fifths(ToLongFunction<String> of) {
        Derivation.Score score = new Derivation.Score("value", 5, true);
        Map<String, Long> values = new TreeMap<>();
        CUSTOMERS.keySet().forEach(customer -> values.put(customer, of.applyAsLong(customer)));
        long[] sorted =
                values.values().stream().mapToLong(Long::longValue).sorted().toArray();
        Map<String, Integer> bands = new TreeMap<>();
        values.forEach((customer, value) -> bands.put(customer, score.band(noBetter(sorted, value), sorted.length)));
        return bands;
    }

    private static long noBetter(long[] sorted, long value) {
        return Arrays.stream(sorted).takeWhile(one -> one <= value).count();
    }
}
