package remitto.core.fieldrule;

import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;

/**
 * A way from a value to values in another dataset: to the rows of a dataset that hold it, over further datasets of the
 * same source, to columns of the last. It narrows what is received and nothing else: where no row is left, nothing is found.
 *
 * @param dataset where the way begins
 * @param by column there that holds the value
 * @param hops further steps; with the first at most {@link #MOST_STEPS}
 * @param give column of the last dataset that is received; blank where {@code parts} are
 * @param parts columns of the last dataset that are received together, as a row; empty for one column
 * @param only conditions rows of the last dataset must meet, all of them
 * @param pick which of many rows come first, how far back and how many; absent for any order and all
 */
public record DatasetLookUp(
        long dataset,
        String by,
        List<Hop> hops,
        String give,
        List<RowPart> parts,
        List<Condition> only,
        Optional<Pick> pick) {
    public static final int MOST_STEPS = 4;

    public DatasetLookUp {
        hops = List.copyOf(hops);
        // Rules that were saved before there were rows say nothing of them.
        parts = parts == null ? List.of() : List.copyOf(parts);
        only = List.copyOf(only);
    }

    /** A look-up of one column. */
    public DatasetLookUp(
            long dataset, String by, List<Hop> hops, String give, List<Condition> only, Optional<Pick> pick) {
        this(dataset, by, hops, give, List.of(), only, pick);
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

    /**
     * A column of rows that are sent as a list.
     *
     * @param name what the receiver calls it
     */
    public record RowPart(String column, String name) {}

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
     * @param most only the first so many rows; 0 for all
     */
    public record Pick(String orderBy, boolean newestFirst, int lookBackDays, int most) {
        public static final int MOST_ROWS = 100;

        public Pick(String orderBy, boolean newestFirst, int lookBackDays) {
            this(orderBy, newestFirst, lookBackDays, 0);
        }
    }

    /** The dataset the value comes from in the end. */
    public long last() {
        return hops.isEmpty() ? dataset : hops.get(hops.size() - 1).dataset();
    }

    /** Columns of the last dataset that are received. */
    public List<String> given() {
        return parts.isEmpty()
                ? List.of(give)
                : parts.stream().map(RowPart::column).toList();
    }

    /** How many rows are received at most; 0 for all. */
    public int most() {
        return pick.map(Pick::most).orElse(0);
    }

    /** Names that parts are called by, without doubles. */
    public Set<String> names() {
        Set<String> names = new LinkedHashSet<>();
        parts.forEach(part -> names.add(part.name()));
        return names;
    }

    /** Every dataset on the way. */
    public List<Long> datasets() {
        return java.util.stream.Stream.concat(
                        java.util.stream.Stream.of(dataset), hops.stream().map(Hop::dataset))
                .toList();
    }
}
