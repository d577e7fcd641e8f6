package remitto.core.identity.quality;

import java.util.HashMap;
import java.util.Map;

/**
 * How good a grouping is beside the truth. Shares from 0 to 1; of pairs, and of records after Bagga and Baldwin (Entity-based
 * cross-document coreferencing using the vector space model, COLING-ACL 1998), called B-cubed.
 *
 * @param pairs that were joined
 * @param truePairs that are one person
 * @param right that are both
 */
public record Quality(long pairs, long truePairs, long right, double bCubedPrecision, double bCubedRecall) {

    /** Of the pairs joined, those that are one person. 1 when none was joined. */
    public double precision() {
        return pairs == 0 ? 1 : right / (double) pairs;
    }

    /** Of the pairs that are one person, those joined. 1 when there are none. */
    public double recall() {
        return truePairs == 0 ? 1 : right / (double) truePairs;
    }

    /** The harmonic mean of precision and recall. */
    public double f1() {
        return harmonic(precision(), recall());
    }

    public double bCubedF1() {
        return harmonic(bCubedPrecision, bCubedRecall);
    }

    private static double harmonic(double one, double other) {
        return one + other == 0 ? 0 : 2 * one * other / (one + other);
    }

    /**
     * @param group by record, any number of messages that tells persons apart
     * @param truth the same, for those that are known; negative where it is not, and the record is not counted
     */
    public static Quality of(int[] group, int[] truth) {
        Map<Integer, Integer> groups = new HashMap<>();
        Map<Integer, Integer> truths = new HashMap<>();
        Map<Long, Integer> both = new HashMap<>();
        int records = 0;
        for (int record = 0; record < group.length; record++) {
            if (truth[record] >= 0) {
                records++;
                groups.merge(group[record], 1, Integer::sum);
                truths.merge(truth[record], 1, Integer::sum);
                both.merge(cell(group[record], truth[record]), 1, Integer::sum);
            }
        }
        double precision = 0;
        double recall = 0;
        for (Map.Entry<Long, Integer> cell : both.entrySet()) {
            double shared = cell.getValue();
            precision += shared * shared / groups.get((int) (cell.getKey() >> 32));
            recall += shared * shared / truths.get((int) (long) cell.getKey());
        }
        return new Quality(
                pairs(groups),
                pairs(truths),
                pairs(both),
                records == 0 ? 1 : precision / records,
                records == 0 ? 1 : recall / records);
    }

    private static long cell(int group, int truth) {
        return ((long) group << 32) | truth;
    }

    private static long pairs(Map<?, Integer> sizes) {
        return sizes.values().stream()
                .mapToLong(size -> (long) size * (size - 1) / 2)
                .sum();
    }
}
