package remitto.connect.source;

import java.time.Duration;
import java.util.List;

/**
 * Rows to be read.
 *
 * @param columns names of the wanted columns; cells come in this order
 * @param most how many rows at most; 0 for all
 * @param time how long it may take until the last row
 */
public record Reading(SourceQuery query, List<String> columns, RowFilter filter, int most, Duration time) {
    public Reading {
        columns = List.copyOf(columns);
    }

    /** Every row. */
    public static Reading all(SourceQuery query, List<String> columns, Duration time) {
        return new Reading(query, columns, RowFilter.ALL, 0, time);
    }

    public Reading only(RowFilter wanted) {
        return new Reading(query, columns, wanted, most, time);
    }

    public Reading atMost(int rows) {
        return new Reading(query, columns, filter, rows, time);
    }
}
