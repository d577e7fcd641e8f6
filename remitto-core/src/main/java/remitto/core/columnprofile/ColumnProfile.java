package remitto.core.columnprofile;

import java.util.List;
import java.util.Optional;
import remitto.core.dataset.ColumnType;

/**
 * What a column held in one read.
 *
 * @param empty rows whose cell is empty or blank
 * @param distinct different values, empty cells aside
 * @param distinctExact whether every value was counted; otherwise {@code distinct} is an estimate with a standard error of 1.2 %, made where there are more than 10,000
 * @param unreadable cells of a number, a date or a time that could not be read as one
 * @param least the least number, date or time; absent for other types and for columns whose values are not kept
 * @param greatest as {@code least}
 * @param shortest characters of the shortest text that is not empty; absent for other types
 * @param longest as {@code shortest}
 * @param commonest values that at least {@value #FEW} rows hold, the most frequent first; none for columns whose values are not kept
 * @param commonestExact whether their rows were counted; otherwise they are estimated from a sample
 * @param histogram how numbers, dates and times are spread, from the least to the greatest; estimated from a sample where there are many rows
 */
public record ColumnProfile(
        String name,
        ColumnType type,
        long empty,
        long distinct,
        boolean distinctExact,
        long unreadable,
        Optional<String> least,
        Optional<String> greatest,
        Optional<Integer> shortest,
        Optional<Integer> longest,
        List<CommonValue> commonest,
        boolean commonestExact,
        List<HistogramBin> histogram) {
    /** A value that fewer rows hold is not kept, so that a profile is about nobody. */
    public static final int FEW = 10;

    public ColumnProfile {
        commonest = List.copyOf(commonest);
        histogram = List.copyOf(histogram);
    }
}
