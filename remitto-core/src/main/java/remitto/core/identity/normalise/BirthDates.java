package remitto.core.identity.normalise;

import java.time.DateTimeException;
import java.time.LocalDate;
import java.util.List;
import java.util.Locale;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** Birth dates in several spellings as yyyymmdd (ISO 8601, basic format). */
final class BirthDates {
    private static final Pattern YEAR_FIRST = Pattern.compile("(\\d{4})[-./ ]?(\\d{1,2})[-./ ]?(\\d{1,2})(?:[T ].*)?");
    static final Pattern TWO_AND_YEAR = Pattern.compile("(\\d{1,2})[-./ ]+(\\d{1,2})[-./ ]+(\\d{4})");
    private static final Pattern WITH_WORD = Pattern.compile("(\\d{1,2})[. ]+(\\p{L}{3,})[. ]+(\\d{4})");
    private static final Pattern NO_DIGIT = Pattern.compile("[^0-9]");
    private static final int YEAR = 4;
    private static final int LONGEST = 9;
    private static final List<String> MONTHS =
            List.of("jan", "feb", "mar", "apr", "ma", "jun", "jul", "aug", "sep", "o", "nov", "de");

    private BirthDates() {}

    /**
     * What is no date stays as its digits, since a slip makes a date none and is still nearer to it than nothing; blank when there
     * are fewer than a year has.
     *
     * @param order of day and month where both are possible; where only the other is, that one counts
     */
    static String normalise(String spelled, DateOrder order) {
        String date = date(spelled.strip(), order);
        if (!date.isEmpty()) {
            return date;
        }
        String digits = NO_DIGIT.matcher(spelled).replaceAll("");
        return digits.length() < YEAR || digits.length() > LONGEST ? "" : digits;
    }

    private static String date(String text, DateOrder order) {
        Matcher year = YEAR_FIRST.matcher(text);
        if (year.matches()) {
            return date(year.group(1), year.group(2), year.group(3));
        }
        Matcher two = TWO_AND_YEAR.matcher(text);
        if (two.matches()) {
            String dayFirst = date(two.group(3), two.group(2), two.group(1));
            String monthFirst = date(two.group(3), two.group(1), two.group(2));
            String meant = order == DateOrder.DAY_FIRST ? dayFirst : monthFirst;
            return meant.isEmpty() ? dayFirst + monthFirst : meant;
        }
        Matcher word = WITH_WORD.matcher(text);
        return word.matches() ? withWord(word) : "";
    }

    private static String withWord(Matcher word) {
        String month = word.group(2).toLowerCase(Locale.ROOT);
        for (int i = 0; i < MONTHS.size(); i++) {
            if (month.startsWith(MONTHS.get(i))) {
                return date(word.group(3), Integer.toString(i + 1), word.group(1));
            }
        }
        return "";
    }

    private static String date(String year, String month, String day) {
        try {
            LocalDate date = LocalDate.of(Integer.parseInt(year), Integer.parseInt(month), Integer.parseInt(day));
            return String.format(
                    Locale.ROOT, "%04d%02d%02d", date.getYear(), date.getMonthValue(), date.getDayOfMonth());
        } catch (DateTimeException e) {
            return "";
        }
    }
}
