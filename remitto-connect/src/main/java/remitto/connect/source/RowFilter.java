package remitto.connect.source;

import java.time.Instant;
import java.util.List;
import remitto.core.dataset.Column;

/** Which of a query's rows are wanted. */
public sealed interface RowFilter {
    RowFilter ALL = new All();

    record All() implements RowFilter {}

    /**
     * The rows of some keys. A whole number is found by its usual spelling alone, so that what is found has the key that was asked for.
     *
     * @param columns that make the key
     * @param keys each with one text for every column
     */
    record OfKeys(List<Column> columns, List<List<String>> keys) implements RowFilter {
        public OfKeys {
            columns = List.copyOf(columns);
            keys = List.copyOf(keys);
        }
    }

    /** Rows of which any of some columns contains a text, in whatever letters. */
    record Containing(List<String> columns, String text) implements RowFilter {
        public Containing {
            columns = List.copyOf(columns);
        }
    }

    /** Rows that are not before a moment, and rows that have none. */
    record SinceOrWithout(String column, Instant from) implements RowFilter {}
}
