package remitto.core.identity.evidence;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import remitto.core.identity.compare.Comparer;
import remitto.core.identity.compare.Levels;

/** How often each way of agreeing was met among pairs of records. Used by one thread. */
public final class Patterns {
    private final int[] base;
    private final Map<Long, double[]> counts = new HashMap<>();

    /** @throws IllegalArgumentException if so many attributes are compared that their patterns cannot be numbered */
    public Patterns(List<Levels> levels) {
        this.base = levels.stream().mapToInt(one -> one.count() + 1).toArray();
        double ways = 1;
        for (int one : base) {
            ways *= one;
        }
        if (ways > Long.MAX_VALUE / 2.0) {
            throw new IllegalArgumentException(levels.size() + " attributes are too many to compare at once");
        }
    }

    /**
     * @param times how often it was met
     * @param share the part of that which is not counted elsewhere
     */
    public void add(byte[] pattern, double times, double share) {
        long index = 0;
        for (int i = 0; i < base.length; i++) {
            index = index * base[i] + pattern[i] + 1;
        }
        double[] met = counts.computeIfAbsent(index, fresh -> new double[2]);
        met[0] += times;
        met[1] += share;
    }

    public void add(byte[] pattern, double times) {
        add(pattern, times, times);
    }

    /**
     * A way of agreeing.
     *
     * @param times how often it was met
     * @param share the part of that which is not counted elsewhere
     */
    record Met(byte[] pattern, double times, double share) {}

    /** Every pattern that was met, in an order of their own, so that sums always come out the same. */
    List<Met> met() {
        List<Met> met = new ArrayList<>();
        for (Map.Entry<Long, double[]> one : new TreeMap<>(counts).entrySet()) {
            byte[] pattern = new byte[base.length];
            long rest = one.getKey();
            for (int i = base.length - 1; i >= 0; i--) {
                pattern[i] = (byte) (rest % base[i] - 1);
                rest /= base[i];
            }
            met.add(new Met(pattern, one.getValue()[0], one.getValue()[1]));
        }
        return met;
    }

    /** Share of each level of an attribute among the pairs that have it, none of them zero. */
    double[] shares(int attribute) {
        int levels = base[attribute] - 1;
        double[] shares = new double[levels];
        java.util.Arrays.fill(shares, 0.5);
        for (Met one : met()) {
            if (one.pattern()[attribute] != Comparer.MISSING) {
                shares[one.pattern()[attribute]] += one.times();
            }
        }
        double all = java.util.Arrays.stream(shares).sum();
        for (int i = 0; i < levels; i++) {
            shares[i] /= all;
        }
        return shares;
    }
}
