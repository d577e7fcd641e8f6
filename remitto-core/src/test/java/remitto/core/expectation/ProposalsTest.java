package remitto.core.expectation;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.IntFunction;
import java.util.stream.IntStream;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.IntRange;
import net.jqwik.api.constraints.Size;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;
import remitto.core.columnprofile.Profiler;
import remitto.core.columnprofile.ReadProfile;
import remitto.core.dataset.Column;
import remitto.core.dataset.ColumnRole;
import remitto.core.dataset.ColumnType;
import remitto.core.dataset.Columns;

class ProposalsTest {
    private static final List<Column> COLUMNS = List.of(
            new Column("id", ColumnType.INTEGER, ColumnRole.KEY),
            new Column("tier", ColumnType.TEXT, ColumnRole.ATTRIBUTE),
            new Column("points", ColumnType.INTEGER, ColumnRole.ATTRIBUTE));

    private static ReadProfile read(int rows, IntFunction<@Nullable String[]> cells) {
        Profiler profiler = new Profiler(COLUMNS);
        IntStream.range(0, rows).forEach(i -> profiler.see(cells.apply(i)));
        return profiler.profile();
    }

    private static ReadProfile guests(int rows) {
        return read(rows, i -> new String[] {String.valueOf(i), i % 2 == 0 ? "gold" : "blue", String.valueOf(i % 90)});
    }

    private static List<String> sentences(List<ReadProfile> reads, Expectation... expected) {
        return Proposals.of(COLUMNS, reads, List.of(expected)).stream()
                .map(one -> one.expectation().sentence() + ": " + one.evidence())
                .toList();
    }

    @Test
    void whatHeldInEveryReadIsProposed() {
        assertThat(sentences(List.of(guests(100), guests(110), guests(95))))
                .containsExactly(
                        "tier is never empty: Never empty in the last 3 reads.",
                        "tier is one of blue, gold: Only these 2 values in the last 3 reads.",
                        "points is never empty: Never empty in the last 3 reads.",
                        "points is at least 0: Never negative in the last 3 reads.",
                        "the dataset has a row count within 20 % of the last reads: The row count differed by at most 10 % in the last 3 reads.");
    }

    @Test
    void whatOneReadBrokeIsNotProposed() {
        ReadProfile broken = read(100, i ->
                new String[] {String.valueOf(i), i == 50 ? null : "tier " + i, String.valueOf(i == 3 ? -1 : i)});

        assertThat(sentences(List.of(guests(100), broken)))
                .containsExactly("points is never empty: Never empty in the last 2 reads.");
    }

    @Test
    void whatIsExpectedAlreadyIsNotProposed() {
        assertThat(sentences(
                        List.of(guests(100)),
                        new Expectation(Optional.of("tier"), new Demand.NeverEmpty(), Response.HOLD_ROWS),
                        new Expectation(Optional.of("tier"), new Demand.ListedValues(List.of("gold")), Response.TELL)))
                .containsExactly(
                        "points is never empty: Never empty in the last read.",
                        "points is at least 0: Never negative in the last read.");
    }

    @Test
    void aHandfulOfRowsProposesNothing() {
        assertThat(sentences(List.of(guests(19)))).isEmpty();
        assertThat(sentences(List.of())).isEmpty();
    }

    @Test
    void valuesThatFewRowsHoldAreNotProposed() {
        ReadProfile rare =
                read(100, i -> new String[] {String.valueOf(i), i == 0 ? "Ada Lind" : "gold", String.valueOf(i)});

        assertThat(sentences(List.of(rare))).noneMatch(one -> one.contains("one of"));
    }

    /** Nothing is proposed that one of the reads would not have met. */
    @Property(tries = 100)
    void whatIsProposedWasMetByEveryRead(
            @ForAll @Size(min = 1, max = 6) List<@IntRange(min = 20, max = 60) Integer> sizes,
            @ForAll @IntRange(min = 0, max = 40) int seed) {
        List<List<@Nullable String[]>> rows = new ArrayList<>();
        for (int size : sizes) {
            List<@Nullable String[]> read = new ArrayList<>();
            for (int i = 0; i < size; i++) {
                read.add(new String[] {
                    String.valueOf(i), (i * seed) % 17 == 5 ? "" : "tier " + i % 3, String.valueOf(i - seed)
                });
            }
            rows.add(read);
        }
        List<ReadProfile> reads =
                rows.stream().map(read -> read(read.size(), read::get)).toList();
        List<Expectation> proposed = Proposals.of(COLUMNS, reads, List.of()).stream()
                .map(ExpectationProposal::expectation)
                .filter(one -> one.demand().isAboutCells())
                .toList();

        rows.forEach(read -> {
            ReadCheck check = new ReadCheck(proposed, new Columns(COLUMNS), SharedValues.NONE);
            read.forEach(check::see);
            assertThat(check.findings(new ReadFacts(read.size(), Optional.empty(), java.time.Instant.EPOCH, List.of())))
                    .allMatch(Finding::met);
        });
        assertThat(ExpectationFaults.of(proposed, new Columns(COLUMNS))).isEmpty();
    }
}
