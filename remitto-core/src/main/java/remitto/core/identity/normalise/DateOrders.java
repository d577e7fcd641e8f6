package remitto.core.identity.normalise;

import java.util.Optional;
import java.util.regex.Matcher;
import java.util.stream.Stream;

/**
 * What the values of a column say about the order of day and month in them. A number above twelve is a day.
 *
 * @param dayFirst values whose first number can only be the day
 * @param monthFirst values whose second number can only be the day
 * @param either values that could be both, and are two dates
 */
public record DateOrders(long dayFirst, long monthFirst, long either) {
    private static final int MONTHS = 12;
    /** So many times more often than the other, an order is the column's, and what speaks for the other are slips; our choice. */
    private static final long CLEARLY = 50;

    /** @param spelled as the source spells them; those that begin with the year, or name the month, say nothing */
    public static DateOrders of(Stream<String> spelled) {
        long[] counts = new long[3];
        spelled.forEach(one -> {
            Matcher numbers = BirthDates.TWO_AND_YEAR.matcher(one.strip());
            if (numbers.matches()) {
                int first = Integer.parseInt(numbers.group(1));
                int second = Integer.parseInt(numbers.group(2));
                if (first > MONTHS && second <= MONTHS) {
                    counts[0]++;
                } else if (second > MONTHS && first <= MONTHS) {
                    counts[1]++;
                } else if (first <= MONTHS && first != second) {
                    counts[2]++;
                }
            }
        });
        return new DateOrders(counts[0], counts[1], counts[2]);
    }

    /** The order that the values show by themselves; empty where somebody has to say it, or there is nothing to order. */
    public Optional<DateOrder> shown() {
        if (dayFirst > CLEARLY * monthFirst) {
            return Optional.of(DateOrder.DAY_FIRST);
        }
        return monthFirst > CLEARLY * dayFirst ? Optional.of(DateOrder.MONTH_FIRST) : Optional.empty();
    }

    /** Whether it matters which order is meant, and the values do not say. */
    public boolean isInDoubt() {
        return dayFirst + monthFirst + either > 0 && shown().isEmpty();
    }
}
