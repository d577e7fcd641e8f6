package remitto.core.guard;

import java.math.BigDecimal;
import java.math.RoundingMode;
import java.util.Optional;

/**
 * How much of something a run may do before it stops; broken when either part is.
 *
 * @param percent 0 to 100; absent for no such limit
 * @param count records; absent for no such limit
 */
public record Limit(Optional<BigDecimal> percent, Optional<Long> count) {
    public static Limit none() {
        return new Limit(Optional.empty(), Optional.empty());
    }

    public static Limit percent(long percent) {
        return new Limit(Optional.of(BigDecimal.valueOf(percent)), Optional.empty());
    }

    public static Limit count(long count) {
        return new Limit(Optional.empty(), Optional.of(count));
    }

    /** How a limit is broken. @param amount what there is of it; @param limit what there may be */
    record Broken(String amount, String limit) {
        /** A sentence such as "Removes 25.7% of the 840 known records; the limit is 10%." */
        String sentence(String verb, String what) {
            return verb + " " + amount + " " + what + "; the limit is " + limit + ".";
        }
    }

    /**
     * Why {@code part} of {@code whole} is too much; empty when it is not.
     *
     * @param whole what the share is taken of; with 0 only the count speaks
     */
    Optional<Broken> broken(long part, long whole) {
        if (part == 0) {
            return Optional.empty();
        }
        if (count.isPresent() && part > count.get()) {
            return Optional.of(new Broken(Long.toString(part), Long.toString(count.get())));
        }
        if (percent.isEmpty() || whole == 0) {
            return Optional.empty();
        }
        BigDecimal share = share(part, whole);
        return share.compareTo(percent.get()) > 0
                ? Optional.of(new Broken(
                        share.setScale(1, RoundingMode.HALF_UP).toPlainString() + "%",
                        percent.get().toPlainString() + "%"))
                : Optional.empty();
    }

    static BigDecimal share(long part, long whole) {
        return BigDecimal.valueOf(part)
                .multiply(BigDecimal.valueOf(100))
                .divide(BigDecimal.valueOf(whole), 6, RoundingMode.HALF_UP);
    }
}
