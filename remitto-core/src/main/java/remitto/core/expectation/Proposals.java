package remitto.core.expectation;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.TreeSet;
import remitto.core.columnprofile.ColumnProfile;
import remitto.core.columnprofile.CommonValue;
import remitto.core.columnprofile.ReadProfile;
import remitto.core.dataset.Column;
import remitto.core.dataset.ColumnRole;
import remitto.core.dataset.ColumnType;

/**
 * Proposes what can be expected, by what held in every one of the last reads. Nothing is proposed that any of them would have broken, or
 * that is expected already.
 */
public final class Proposals {
    private static final int FEW_VALUES = 8;
    private static final long FEW_ROWS = 20;
    private static final int READS_FOR_COUNT = 3;
    private static final int ROOM = 2;
    private static final int LEAST_PERCENT = 20;

    private Proposals() {}

    /** @param reads profiles of the last reads, the newest first */
    public static List<ExpectationProposal> of(
            List<Column> columns, List<ReadProfile> reads, List<Expectation> expected) {
        if (reads.isEmpty() || reads.get(0).rows() < FEW_ROWS) {
            return List.of();
        }
        List<ExpectationProposal> proposals = new ArrayList<>();
        for (Column column : columns) {
            List<ColumnProfile> profiles = reads.stream()
                    .flatMap(read -> read.column(column.name()).stream())
                    .toList();
            if (profiles.size() == reads.size()) {
                neverEmpty(column, profiles, reads.size()).ifPresent(proposals::add);
                oneOf(column, profiles, reads).ifPresent(proposals::add);
                notNegative(column, profiles, reads.size()).ifPresent(proposals::add);
            }
        }
        rowCount(reads).ifPresent(proposals::add);
        return proposals.stream()
                .filter(one -> expected.stream().noneMatch(other -> isSame(one.expectation(), other)))
                .toList();
    }

    private static boolean isSame(Expectation one, Expectation other) {
        return one.column().equals(other.column())
                && one.demand().getClass().equals(other.demand().getClass());
    }

    private static Optional<ExpectationProposal> neverEmpty(Column column, List<ColumnProfile> profiles, int reads) {
        return column.role() != ColumnRole.KEY && profiles.stream().allMatch(one -> one.empty() == 0)
                ? Optional.of(ExpectationProposal.of(
                        new Expectation(Optional.of(column.name()), new Demand.NeverEmpty(), Response.TELL),
                        "Never empty in " + reads(reads) + "."))
                : Optional.empty();
    }

    /** A few values, each of which is in enough rows to be told. */
    private static Optional<ExpectationProposal> oneOf(
            Column column, List<ColumnProfile> profiles, List<ReadProfile> reads) {
        boolean few = column.type() == ColumnType.TEXT
                && profiles.stream()
                        .allMatch(one -> one.distinctExact()
                                && one.distinct() > 0
                                && one.distinct() <= FEW_VALUES
                                && one.commonest().size() == one.distinct());
        if (!few) {
            return Optional.empty();
        }
        TreeSet<String> values = new TreeSet<>();
        profiles.forEach(one -> one.commonest().stream().map(CommonValue::text).forEach(values::add));
        return values.size() > FEW_VALUES
                ? Optional.empty()
                : Optional.of(ExpectationProposal.of(
                        new Expectation(
                                Optional.of(column.name()),
                                new Demand.ListedValues(List.copyOf(values)),
                                Response.TELL),
                        "Only " + (values.size() == 1 ? "this value" : "these " + values.size() + " values") + " in "
                                + reads(reads.size()) + "."));
    }

    private static Optional<ExpectationProposal> notNegative(Column column, List<ColumnProfile> profiles, int reads) {
        boolean number = column.type() == ColumnType.INTEGER || column.type() == ColumnType.DECIMAL;
        boolean never = profiles.stream()
                .allMatch(one ->
                        one.least().filter(least -> !least.startsWith("-")).isPresent());
        return number && never && column.role() != ColumnRole.KEY
                ? Optional.of(ExpectationProposal.of(
                        new Expectation(
                                Optional.of(column.name()),
                                new Demand.ValueRange(Optional.of("0"), Optional.empty()),
                                Response.TELL),
                        "Never negative in " + reads(reads) + "."))
                : Optional.empty();
    }

    /** Twice as far as any of the reads was from the newest, and no less than a fifth. */
    private static Optional<ExpectationProposal> rowCount(List<ReadProfile> reads) {
        if (reads.size() < READS_FOR_COUNT) {
            return Optional.empty();
        }
        double newest = reads.get(0).rows();
        double farthest = reads.stream()
                .mapToDouble(one -> Math.abs(one.rows() - newest) * 100 / newest)
                .max()
                .orElse(0);
        int percent = (int) Math.min(1_000, Math.max(LEAST_PERCENT, Math.ceil(farthest * ROOM / 10) * 10));
        return Optional.of(ExpectationProposal.of(
                new Expectation(
                        Optional.empty(),
                        new Demand.RowCount(Optional.empty(), Optional.empty(), Optional.of(percent)),
                        Response.TELL),
                "The row count differed by at most " + Math.round(farthest) + " % in " + reads(reads.size()) + "."));
    }

    private static String reads(int number) {
        return number == 1 ? "the last read" : "the last " + number + " reads";
    }
}
