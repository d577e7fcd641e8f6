package remitto.core.landed;

import java.time.ZoneId;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;
import remitto.core.dataset.ColumnType;

/** Proposes names, types and spellings of columns by looking at some rows. */
public final class ColumnGuesses {
    private static final ZoneId UTC = ZoneId.of("UTC");

    /** Numbers whose zeros in front would be lost are codes, and phones with a plus are no sums. */
    private static final Pattern CODE = Pattern.compile("[+-]?0\\d.*|\\+\\d{7,}");

    /** A way to read a column. The first that all values fit is proposed. */
    private record Try(ColumnType type, String spelling, String words) {}

    private static final List<Try> TRIES = List.of(
            new Try(ColumnType.BOOLEAN, "", "yes or no"),
            new Try(ColumnType.INTEGER, "", "whole numbers"),
            new Try(ColumnType.DECIMAL, "", "numbers with a decimal point"),
            new Try(ColumnType.DECIMAL, CellReading.COMMA, "numbers with a decimal comma"),
            new Try(ColumnType.DATE, "", "dates (year-month-day)"),
            new Try(ColumnType.DATE, "dd.MM.uuuu", "dates (dd.MM.uuuu)"),
            new Try(ColumnType.DATE, "d.M.uuuu", "dates (d.M.uuuu)"),
            new Try(ColumnType.DATE, "dd/MM/uuuu", "dates, day first (dd/MM/uuuu)"),
            new Try(ColumnType.DATE, "MM/dd/uuuu", "dates, month first (MM/dd/uuuu)"),
            new Try(ColumnType.DATE, "dd-MM-uuuu", "dates (dd-MM-uuuu)"),
            new Try(ColumnType.DATE, "uuuu/MM/dd", "dates (uuuu/MM/dd)"),
            new Try(ColumnType.TIMESTAMP, "", "dates with a time (ISO 8601)"),
            new Try(ColumnType.TIMESTAMP, "dd.MM.uuuu HH:mm", "dates with a time (dd.MM.uuuu HH:mm)"),
            new Try(ColumnType.TIMESTAMP, "dd.MM.uuuu HH:mm:ss", "dates with a time (dd.MM.uuuu HH:mm:ss)"),
            new Try(ColumnType.TIMESTAMP, "dd/MM/uuuu HH:mm", "dates with a time, day first (dd/MM/uuuu HH:mm)"),
            new Try(ColumnType.TIMESTAMP, "MM/dd/uuuu HH:mm", "dates with a time, month first (MM/dd/uuuu HH:mm)"));

    private ColumnGuesses() {}

    /**
     * @param names of the columns in the file
     * @param rows with a cell for each
     */
    public static List<ColumnGuess> of(List<String> names, List<? extends List<@Nullable String>> rows) {
        List<ColumnGuess> guesses = new ArrayList<>();
        Set<String> taken = new HashSet<>();
        for (int i = 0; i < names.size(); i++) {
            List<String> values = new ArrayList<>();
            for (List<@Nullable String> row : rows) {
                String cell = i < row.size() ? row.get(i) : null;
                if (cell != null && !cell.isBlank()) {
                    values.add(cell);
                }
            }
            guesses.add(guess(name(names.get(i), i + 1, taken), names.get(i), values, rows.size()));
        }
        return guesses;
    }

    private static ColumnGuess guess(String name, String from, List<String> values, int rows) {
        int distinct = new HashSet<>(values).size();
        boolean key = rows > 0 && values.size() == rows && distinct == rows;
        String filled = values.size() + " of " + rows + " filled";
        if (values.isEmpty()) {
            return new ColumnGuess(
                    new LandedColumn(name, from, ColumnType.TEXT, ""), "no value in " + rows + " rows", 0, 0, false);
        }
        Fitting best = best(values);
        if (best.isEnough(values.size())) {
            Try one = best.tried();
            return new ColumnGuess(
                    new LandedColumn(name, from, one.type(), one.spelling()),
                    filled + ": " + one.words() + exception(best, values) + also(one, values),
                    values.size(),
                    distinct,
                    key);
        }
        boolean codes = values.stream().allMatch(value -> value.strip().matches("[+-]?\\d+"));
        String why = codes
                ? ": codes or phones, kept as text so that no zero in front is lost"
                : best.count() * 2 < values.size()
                        ? ": text"
                        : ": text; " + best.count() + " of " + values.size() + " are "
                                + best.tried().words() + exception(best, values);
        return new ColumnGuess(
                new LandedColumn(name, from, ColumnType.TEXT, ""), filled + why, values.size(), distinct, key);
    }

    /**
     * A way to read a column, and how many of its values fit.
     *
     * @param other index of the first value that does not; -1 if all do
     */
    private record Fitting(Try tried, int count, int other) {
        /** Nearly all of a good many: the others are mistakes, which would be held. */
        boolean isEnough(int values) {
            return count == values || values >= 20 && count * 20 >= values * 19;
        }
    }

    private static Fitting best(List<String> values) {
        Fitting best = new Fitting(TRIES.get(0), 0, 0);
        for (Try one : TRIES) {
            Fitting fitting = fitting(one, values);
            if (fitting.count() > best.count()) {
                best = fitting;
            }
        }
        return best;
    }

    private static String exception(Fitting fitting, List<String> values) {
        return fitting.other() < 0 ? "" : ", but not \"" + values.get(fitting.other()) + "\"";
    }

    /** What else it could be, so that a person may choose. */
    private static String also(Try chosen, List<String> values) {
        return TRIES.stream()
                .filter(one -> one != chosen
                        && one.type() == chosen.type()
                        && !one.spelling().equals(chosen.spelling()))
                .filter(one -> !chosen.spelling().isEmpty() || one.type() == ColumnType.DECIMAL)
                .filter(one -> fit(one, values))
                .filter(one -> differs(chosen, one, values))
                .findFirst()
                .map(one -> "; could also be " + one.words())
                .orElse("");
    }

    private static boolean differs(Try one, Try other, List<String> values) {
        CellReading first = reading(one);
        CellReading second = reading(other);
        return values.stream().anyMatch(value -> !first.read(value).equals(second.read(value)));
    }

    private static CellReading reading(Try one) {
        return CellReading.of(new LandedColumn("value", "value", one.type(), one.spelling()), UTC);
    }

    private static boolean fit(Try one, List<String> values) {
        return fitting(one, values).other() < 0;
    }

    private static Fitting fitting(Try one, List<String> values) {
        boolean number = one.type() == ColumnType.INTEGER || one.type() == ColumnType.DECIMAL;
        // A column of ones and noughts counts as often as it says yes or no, and one of "NO" alone is as likely a
        // country.
        boolean counts = one.type() == ColumnType.BOOLEAN
                && (values.stream().allMatch(value -> value.strip().matches("[01]"))
                        || values.stream().distinct().limit(2).count() < 2);
        boolean codes = number && values.stream().anyMatch(ColumnGuesses::isCode);
        if (counts || codes) {
            return new Fitting(one, 0, 0);
        }
        CellReading reading = reading(one);
        int count = 0;
        int other = -1;
        for (int i = 0; i < values.size(); i++) {
            if (reading.read(values.get(i)) instanceof CellReading.Cell.Fits) {
                count++;
            } else if (other < 0) {
                other = i;
            }
        }
        return new Fitting(one, count, other);
    }

    private static boolean isCode(String value) {
        String plain = value.strip();
        return CODE.matcher(plain).matches() && !plain.matches("[+-]?0[.,]\\d+");
    }

    /** As names are written in queries: small letters, digits and underscores. */
    private static String name(String from, int number, Set<String> taken) {
        String plain = java.text.Normalizer.normalize(
                        from.replace("ø", "o")
                                .replace("Ø", "O")
                                .replace("æ", "ae")
                                .replace("ß", "ss"),
                        java.text.Normalizer.Form.NFKD)
                .replaceAll("\\p{M}", "")
                .toLowerCase(Locale.ROOT)
                .replaceAll("[^\\p{L}\\p{N}]+", "_")
                .replaceAll("^_+|_+$", "");
        String name = plain.isEmpty() ? "column_" + number : plain;
        name = name.substring(0, Math.min(30, name.length()));
        String free = name;
        for (int i = 2; !taken.add(free); i++) {
            free = name + "_" + i;
        }
        return free;
    }
}
