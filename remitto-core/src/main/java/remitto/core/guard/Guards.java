package remitto.core.guard;

import java.math.BigDecimal;
import java.math.RoundingMode;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import remitto.core.manifest.Sums;

/**
 * Limits that stop a run before it does damage. Shares are percent, 0 to 100.
 *
 * @param removedPercent removals as a share of the records known before the run
 * @param heldPercent held records as a share of the rows read
 * @param changedPercent changed records as a share of the records known before the run; absent: no limit
 * @param stopOnEmptyDataset stop when no row was read
 */
public record Guards(
        BigDecimal removedPercent,
        BigDecimal heldPercent,
        Optional<BigDecimal> changedPercent,
        boolean stopOnEmptyDataset) {

    public static Guards defaults() {
        return new Guards(BigDecimal.TEN, BigDecimal.TEN, Optional.empty(), true);
    }

    /**
     * Why a run with these sums must wait for a person, one sentence per limit that it breaks.
     *
     * @param knownBefore records of the route known before the run
     */
    public List<String> check(Sums sums, long knownBefore) {
        List<String> stops = new ArrayList<>();
        if (stopOnEmptyDataset && sums.read() == 0) {
            stops.add("The dataset is empty; it held no row at all.");
        }
        share(sums.removed(), knownBefore, removedPercent)
                .ifPresent(share -> stops.add("Removes " + share + "% of the " + knownBefore
                        + " known records; the limit is " + removedPercent.toPlainString() + "%."));
        share(sums.held(), sums.read(), heldPercent)
                .ifPresent(share -> stops.add("Holds " + share + "% of the " + sums.read() + " rows read; the limit is "
                        + heldPercent.toPlainString() + "%."));
        changedPercent.ifPresent(limit -> share(sums.changed(), knownBefore, limit)
                .ifPresent(share -> stops.add("Changes " + share + "% of the " + knownBefore
                        + " known records; the limit is " + limit.toPlainString() + "%.")));
        return stops;
    }

    private static Optional<String> share(long part, long whole, BigDecimal limit) {
        if (part == 0 || whole == 0) {
            return Optional.empty();
        }
        BigDecimal share = BigDecimal.valueOf(part)
                .multiply(BigDecimal.valueOf(100))
                .divide(BigDecimal.valueOf(whole), 6, RoundingMode.HALF_UP);
        return share.compareTo(limit) > 0
                ? Optional.of(share.setScale(1, RoundingMode.HALF_UP).toPlainString())
                : Optional.empty();
    }
}
