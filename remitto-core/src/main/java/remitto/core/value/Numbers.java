package remitto.core.value;

import java.math.BigDecimal;

/** Bounds of numbers: written out, one of a few characters such as 1e999999999 would fill the memory. */
public final class Numbers {
    private static final int MOST_DIGITS = 400;

    private Numbers() {}

    /**
     * The number itself.
     *
     * @throws NumberFormatException if it has more than 400 digits before or behind its point
     */
    public static BigDecimal bounded(BigDecimal number) {
        long before = (long) number.precision() - number.scale();
        if (before > MOST_DIGITS || number.scale() > MOST_DIGITS) {
            throw new NumberFormatException(
                    "a number has at most " + MOST_DIGITS + " digits before and behind its point");
        }
        return number;
    }
}
