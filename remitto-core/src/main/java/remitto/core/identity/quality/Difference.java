package remitto.core.identity.quality;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/**
 * How two groupings of the same records differ.
 *
 * @param onlyFirst pairs of records that are one person by the first and not by the second, {@code onlySecond} the other way
 * @param both pairs that are one person by both
 * @param firstExamples some of {@code onlyFirst}, by record numbers, spread over all of them
 */
public record Difference(
        long onlyFirst, long onlySecond, long both, List<int[]> firstExamples, List<int[]> secondExamples) {

    /**
     * @param first by record, any number of messages that tells persons apart; {@code second} the same
     * @param examples of each kind at most
     */
    public static Difference of(int[] first, int[] second, int examples) {
        Map<Integer, Integer> firsts = new HashMap<>();
        Map<Integer, Integer> seconds = new HashMap<>();
        Map<Long, Integer> cells = new HashMap<>();
        for (int record = 0; record < first.length; record++) {
            firsts.merge(first[record], 1, Integer::sum);
            seconds.merge(second[record], 1, Integer::sum);
            cells.merge(((long) first[record] << 32) | second[record], 1, Integer::sum);
        }
        long both = pairs(cells);
        long onlyFirst = pairs(firsts) - both;
        long onlySecond = pairs(seconds) - both;
        return new Difference(
                onlyFirst,
                onlySecond,
                both,
                examples(first, second, onlyFirst, examples),
                examples(second, first, onlySecond, examples));
    }

    private static long pairs(Map<?, Integer> sizes) {
        return sizes.values().stream()
                .mapToLong(size -> (long) size * (size - 1) / 2)
                .sum();
    }

    /** Every so many of them, so that they are not all of the first records. */
    private static List<int[]> examples(int[] same, int[] different, long all, int most) {
        long step = Math.max(1, all / Math.max(1, most));
        Map<Integer, List<Integer>> members = new HashMap<>();
        List<int[]> examples = new ArrayList<>();
        long met = 0;
        for (int record = 0; record < same.length && examples.size() < most; record++) {
            List<Integer> before = members.computeIfAbsent(same[record], id -> new ArrayList<>());
            for (int other : before) {
                if (different[other] != different[record] && met++ % step == 0 && examples.size() < most) {
                    examples.add(new int[] {other, record});
                }
            }
            before.add(record);
        }
        return examples;
    }
}
