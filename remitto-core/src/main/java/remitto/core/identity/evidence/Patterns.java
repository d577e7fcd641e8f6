package remitto.core.identity.evidence;

import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import remitto.core.identity.compare.Comparer;
import remitto.core.identity.compare.Levels;

/** How often each way of agreeing was met among pairs of records. Used by one thread. */
public final class Patterns {
    private final int[] base;
    private final Map<Long, long[]> counts = new HashMap<>();
    private List<Map.Entry<Long, long[]>> inOrder = List.of();

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

    public void add(byte[] pattern, long times) {
        long index = 0;
        for (int i = 0; i < base.length; i++) {
            index = index * base[i] + pattern[i] + 1;
        }
        counts.computeIfAbsent(index, fresh -> new long[1])[0] += times;
    }

    /** Takes a pattern and how often it was met. */
    interface Sink {
        void take(byte[] pattern, long times);
    }

    /** Every pattern that was met, in an order of their own, so that sums always come out the same. */
    void each(Sink sink) {
        byte[] pattern = new byte[base.length];
        if (inOrder.size() < counts.size()) {
            inOrder = List.copyOf(new TreeMap<>(counts).entrySet());
        }
        for (Map.Entry<Long, long[]> met : inOrder) {
            long rest = met.getKey();
            for (int i = base.length - 1; i >= 0; i--) {
                pattern[i] = (byte) (rest % base[i] - 1);
                rest /= base[i];
            }
            sink.take(pattern, met.getValue()[0]);
        }
    }

    /** Share of each level of an attribute among the pairs that have it, none of them zero. */
    double[] shares(int attribute) {
        int levels = base[attribute] - 1;
        double[] shares = new double[levels];
        java.util.Arrays.fill(shares, 0.5);
        each((pattern, times) -> {
            if (pattern[attribute] != Comparer.MISSING) {
                shares[pattern[attribute]] += times;
            }
        });
        double all = java.util.Arrays.stream(shares).sum();
        for (int i = 0; i < levels; i++) {
            shares[i] /= all;
        }
        return shares;
    }
}
