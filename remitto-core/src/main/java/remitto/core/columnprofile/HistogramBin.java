package remitto.core.columnprofile;

/**
 * One of several ranges of equal width.
 *
 * @param from where it begins, as a number, a date, or a time in UTC; the first begins at the least value
 * @param to where it ends; the value itself belongs to the next range, but for the last one
 * @param rows whose value lies in it
 */
public record HistogramBin(String from, String to, long rows) {}
