package remitto.core.expectation;

import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import remitto.core.dataset.Columns;

/** Sees every row of a read and tells afterwards which expectations it met. Not safe to share between threads. */
public final class ReadCheck {
    private static final int READS_NEEDED = 3;

    private final List<Counting> counts = new ArrayList<>();
    private final List<Expectation> expectations;
    private final SharedValues shared;

    private static final class Counting {
        private final Expectation expectation;
        private final int at;
        private final CellTests.CellTest test;
        private long rows;

        Counting(Expectation expectation, int at, CellTests.CellTest test) {
            this.expectation = expectation;
            this.at = at;
            this.test = test;
        }
    }

    /** @param columns in the order of cells */
    public ReadCheck(List<Expectation> expectations, Columns columns, SharedValues shared) {
        this.expectations = List.copyOf(expectations);
        this.shared = shared;
        for (Expectation one : expectations) {
            one.column()
                    .flatMap(columns::find)
                    .ifPresent(column -> counts.add(new Counting(
                            one,
                            columns.position(column.name()).orElseThrow(),
                            CellTests.of(one.demand(), column.type(), shared.of(column.name())))));
        }
    }

    public void see(@Nullable String[] cells) {
        for (Counting one : counts) {
            if (one.test.fault(cells[one.at]).isPresent()) {
                one.rows++;
            }
        }
    }

    /** What was found, in the order of the expectations. An expectation of a column that is not there is left out. */
    public List<Finding> findings(ReadFacts facts) {
        List<Finding> findings = new ArrayList<>();
        for (Expectation one : expectations) {
            if (one.demand().isAboutCells()) {
                counts.stream()
                        .filter(count -> count.expectation == one)
                        .findFirst()
                        .ifPresent(count -> findings.add(ofCells(count)));
            } else {
                findings.add(ofDataset(one, facts));
            }
        }
        return findings;
    }

    /** The expectations of a dataset as a whole alone, for which no row has to be read. */
    public static List<Finding> withoutRows(List<Expectation> expectations, ReadFacts facts) {
        return expectations.stream()
                .filter(one -> !one.demand().isAboutCells())
                .map(one -> ofDataset(one, facts))
                .toList();
    }

    private Finding ofCells(Counting count) {
        Expectation one = count.expectation;
        if (one.demand() instanceof Demand.UniqueValues) {
            long values = shared.number(one.column().orElseThrow());
            return values == 0
                    ? met(one)
                    : new Finding(
                            one,
                            false,
                            count.rows,
                            one.response() == Response.HOLD_ROWS
                                    && shared.isCut(one.column().orElseThrow()),
                            counted(values, "value is", "values are") + " in more than one row.");
        }
        return count.rows == 0
                ? met(one)
                : new Finding(
                        one, false, count.rows, false, counted(count.rows, "row does", "rows do") + " not meet this.");
    }

    private static Finding ofDataset(Expectation one, ReadFacts facts) {
        Optional<String> fault = one.demand() instanceof Demand.RowCount rows
                ? rowCount(rows, facts)
                : fresh((Demand.FreshRows) one.demand(), facts);
        return fault.map(detail -> new Finding(one, false, 0, false, detail)).orElseGet(() -> met(one));
    }

    private static Optional<String> rowCount(Demand.RowCount rows, ReadFacts facts) {
        if (rows.least().filter(least -> facts.rows() < least).isPresent()
                || rows.most().filter(most -> facts.rows() > most).isPresent()) {
            return Optional.of("It has " + counted(facts.rows(), "row", "rows") + ".");
        }
        if (rows.changePercent().isEmpty() || facts.earlier().size() < READS_NEEDED) {
            return Optional.empty();
        }
        long median = median(facts.earlier());
        return Math.abs(facts.rows() - median) * 100.0
                        > (double) rows.changePercent().get() * median
                ? Optional.of("It has " + counted(facts.rows(), "row", "rows") + "; the median of the last "
                        + facts.earlier().size() + " reads is " + median + ".")
                : Optional.empty();
    }

    /** The middle one; of an even number, the lower of the two in the middle. */
    private static long median(List<Long> counts) {
        return counts.stream().sorted().toList().get((counts.size() - 1) / 2);
    }

    private static Optional<String> fresh(Demand.FreshRows fresh, ReadFacts facts) {
        if (facts.newest().isEmpty()) {
            return Optional.of("It has no row with a date of change.");
        }
        Duration age = Duration.between(facts.newest().get(), facts.now());
        return age.compareTo(Duration.ofHours(fresh.hours())) > 0
                ? Optional.of("Its newest row is " + counted(age.toHours(), "hour", "hours") + " old.")
                : Optional.empty();
    }

    private static Finding met(Expectation one) {
        return new Finding(one, true, 0, false, "");
    }

    private static String counted(long number, String one, String several) {
        return number + " " + (number == 1 ? one : several);
    }
}
