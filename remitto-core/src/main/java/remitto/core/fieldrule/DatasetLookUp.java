package remitto.core.fieldrule;

import java.util.List;
import java.util.Optional;

/**
 * A way from a value to values in another dataset: to the rows of a dataset that hold it, over further datasets of the
 * same source, to a column of the last.
 *
 * @param dataset where the way begins
 * @param by column there that holds the value
 * @param hops further steps; with the first at most {@link #MOST_STEPS}
 * @param give column of the last dataset that is received
 * @param only conditions rows of the last dataset must meet, all of them
 * @param pick which of many rows come first, and how far back; absent for any order
 */
public record DatasetLookUp(
        long dataset, String by, List<Hop> hops, String give, List<Condition> only, Optional<Pick> pick) {
    public static final int MOST_STEPS = 4;

    public DatasetLookUp {
        hops = List.copyOf(hops);
        only = List.copyOf(only);
    }

    /** A look-up in one dataset, of any row. */
    public static DatasetLookUp of(long dataset, String by, String give) {
        return new DatasetLookUp(dataset, by, List.of(), give, List.of(), Optional.empty());
    }

    /**
     * One step further.
     *
     * @param from column of the dataset before
     * @param dataset the next
     * @param by column of the next that holds the same value
     */
    public record Hop(String from, long dataset, String by) {}

    /** @param text compared as text with {@code is} and {@code is not}, by the column's type with the others */
    public record Condition(String column, Comparison comparison, String text) {}

    /** How a column is compared with a text. */
    public enum Comparison {
        IS("="),
        IS_NOT("<>"),
        MORE_THAN(">"),
        LESS_THAN("<");

        private final String sign;

        Comparison(String sign) {
            this.sign = sign;
        }

        public String sign() {
            return sign;
        }
    }

    /**
     * The rows in an order, the first first.
     *
     * @param orderBy column; rows without a value come last
     * @param lookBackDays only rows whose {@code orderBy}, a date or point in time, lies at most so many days back; 0
     *     for all
     */
    public record Pick(String orderBy, boolean newestFirst, int lookBackDays) {}

    /** The dataset the value comes from in the end. */
    public long last() {
        return hops.isEmpty() ? dataset : hops.get(hops.size() - 1).dataset();
    }

    /** Every dataset on the way. */
    public List<Long> datasets() {
        return java.util.stream.Stream.concat(
                        java.util.stream.Stream.of(dataset), hops.stream().map(Hop::dataset))
                .toList();
    }
}
