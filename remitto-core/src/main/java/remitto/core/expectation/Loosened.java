package remitto.core.expectation;

import java.util.List;
import java.util.Optional;

/** Which expectations that hold rows or stop routes let pass more than before. */
public final class Loosened {
    private Loosened() {}

    /**
     * Those that are gone, do less, or demand less, in words. A demand that is neither the same nor known to be stricter counts as less.
     *
     * @param before what is expected until now
     */
    public static List<String> of(List<Expectation> before, List<Expectation> now) {
        return before.stream()
                .filter(one -> one.response() != Response.TELL)
                .filter(one -> now.stream().noneMatch(other -> guardsAsMuch(other, one)))
                .map(Expectation::sentence)
                .toList();
    }

    private static boolean guardsAsMuch(Expectation now, Expectation before) {
        return now.column().equals(before.column())
                && now.response().compareTo(before.response()) >= 0
                && isAtLeast(now.demand(), before.demand());
    }

    private static boolean isAtLeast(Demand now, Demand before) {
        if (now.equals(before)) {
            return true;
        }
        if (now instanceof Demand.ListedValues fewer && before instanceof Demand.ListedValues more) {
            return more.values().containsAll(fewer.values());
        }
        if (now instanceof Demand.FreshRows fresher && before instanceof Demand.FreshRows older) {
            return fresher.hours() <= older.hours();
        }
        return now instanceof Demand.RowCount one && before instanceof Demand.RowCount other && isAtLeast(one, other);
    }

    private static boolean isAtLeast(Demand.RowCount now, Demand.RowCount before) {
        return isWithin(
                        before.least(),
                        now.least().map(least -> -least),
                        before.least().map(least -> -least))
                && isWithin(before.most(), now.most(), before.most())
                && isWithin(
                        before.changePercent(),
                        now.changePercent().map(Integer::longValue),
                        before.changePercent().map(Integer::longValue));
    }

    /** Where there was no bound, any is stricter; a bound that was there is there still, and no higher. */
    private static boolean isWithin(Optional<?> was, Optional<Long> now, Optional<Long> before) {
        return was.isEmpty() || now.isPresent() && now.get() <= before.orElseThrow();
    }
}
