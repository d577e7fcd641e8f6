package remitto.core.landed;

import remitto.core.dataset.ColumnType;

/**
 * A column that is kept of a file.
 *
 * @param name what it is called where it is kept
 * @param from name of the column in the file; in JSON the names on the way to the value, with full stops between
 * @param spelling how the file spells its values; blank for the usual: numbers with a decimal point, dates and times as ISO 8601, and true
 *     or false, yes or no, t or f, y or n, 1 or 0. Otherwise for numbers {@code comma}, for dates and times a pattern of java.time such
 *     as {@code dd.MM.uuuu}, and for booleans the word for yes, a slash and the word for no
 */
public record LandedColumn(String name, String from, ColumnType type, String spelling) {}
