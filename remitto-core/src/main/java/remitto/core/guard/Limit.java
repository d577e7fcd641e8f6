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
    private static final BigDecimal WHOLE = BigDecimal.valueOf(100);

    /** What is wrong with it, as a sentence that follows its name; empty when nothing is. */
    Optional<String> fault() {
        if (percent.filter(share -> share.signum() < 0 || share.compareTo(WHOLE) > 0 || share.scale() > 4)
                .isPresent()) {
            return Optional.of("is a share from 0 to 100 percent");
        }
        return count.filter(records -> records < 0).map(records -> "is a number of records, not less than 0");
    }

    public static Limit none() {
        return new Limit(Optional.empty(), Optional.empty());
    }

    public static Limit percent(long percent) {
        return new Limit(Optional.of(BigDecimal.valueOf(percent)), Optional.empty());
    }

    public static Limit count(long count) {
        return new Limit(Optional.empty(), Optional.of(count));
    }

    /**
     * How a limit is broken.
     *
     * @param amount what there is of it
     * @param limit what there may be
     */
    record Broken(String amount, String limit) {
        /** A sentence such as "Removes 25.7% of the 840 known records; the limit is 10%." */
        String sentence(String verb, String what) {
            return verb + " " + amount + " " + what + "; the limit is " + limit + ".";
        }
    }

    /** Whether it lets pass what the other would stop. */
    boolean isLooserThan(Limit other) {
        return isMore(percent, other.percent) || isMore(count, other.count);
    }

    /** An absent limit is more than any. */
    static <T extends Comparable<T>> boolean isMore(Optional<T> one, Optional<T> other) {
        return other.isPresent() && (one.isEmpty() || one.get().compareTo(other.get()) > 0);
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
