package remitto.bench;

import java.util.Arrays;
import java.util.HashMap;
import java.util.Map;

/**
 * Which records of one person can be told to be one at all: those that share a value, or are connected by others of the same person
 * that do. What shares nothing with the rest is not found by any way of looking for pairs.
 */
final class Reach {
    private final int[] leader;

    private Reach(int records) {
        leader = new int[records];
        Arrays.setAll(leader, record -> record);
    }

    /**
     * @param values by record and attribute, normalised; blank for none
     * @param truth by record, who it is
     * @return by record, a number that is the same for all that one person's shared values reach
     */
    static int[] of(String[][] values, int[] truth) {
        Reach reach = new Reach(values.length);
        Map<String, Integer> first = new HashMap<>();
        for (int record = 0; record < values.length; record++) {
            for (int attribute = 0; attribute < values[record].length; attribute++) {
                String value = values[record][attribute];
                if (!value.isBlank()) {
                    Integer earlier =
                            first.putIfAbsent(truth[record] + "\u0000" + attribute + "\u0000" + value, record);
                    if (earlier != null) {
                        reach.join(earlier, record);
                    }
                }
            }
        }
        int[] all = new int[values.length];
        Arrays.setAll(all, reach::leader);
        return all;
    }

    private int leader(int record) {
        int at = record;
        while (leader[at] != at) {
            leader[at] = leader[leader[at]];
            at = leader[at];
        }
        return at;
    }

    private void join(int one, int other) {
        leader[leader(other)] = leader(one);
    }
}
