package remitto.server.arrival;

import java.time.Instant;
import java.util.List;
import java.util.Optional;

/** One way in which data comes in. */
public interface Arriving {
    Arrival.Kind kind();

    /** The newest first. */
    List<Arrival> latest(Wanted wanted);

    /** How many came in, for each subject and hour in which any did. */
    List<HourOfSubject> hours(Instant since);

    /** An arrival and the first rows that it brought; empty if there is none of that id. */
    Optional<ArrivedRows> rows(long id, int most);

    /**
     * Which arrivals are wanted.
     *
     * @param source of a source alone; absent for every
     * @param troubled only those that do not fit
     * @param before only those that came in before; absent for the latest
     */
    record Wanted(Optional<Long> source, boolean troubled, Optional<Instant> before, int most) {}

    /** @param hour at which it begins */
    record HourOfSubject(Arrival.Subject subject, Instant hour, long arrivals) {}

    /**
     * Rows of an arrival.
     *
     * @param table of the schema {@code landed} that they are read from; blank where they are in none
     * @param columns of that table
     * @param rows cell by cell
     */
    record ArrivedRows(Arrival arrival, String table, List<String> columns, List<List<Optional<String>>> rows) {
        public ArrivedRows {
            columns = List.copyOf(columns);
            rows = List.copyOf(rows);
        }
    }
}
