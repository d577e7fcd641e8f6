package remitto.core.identity.evidence;

import java.util.List;
import remitto.core.identity.compare.Comparer;
import remitto.core.identity.compare.Levels;

/** How often each way of agreeing was met among pairs of records. Used by one thread. */
public final class Patterns {
    private final int[] base;
    private final long[] counts;

    public Patterns(List<Levels> levels) {
        this.base = levels.stream().mapToInt(one -> one.count() + 1).toArray();
        long size = 1;
        for (int one : base) {
            size *= one;
        }
        if (size > 50_000_000) {
            throw new IllegalArgumentException("too many attributes are compared at once: " + levels.size());
        }
        this.counts = new long[(int) size];
    }

    public void add(byte[] pattern, long times) {
        int index = 0;
        for (int i = 0; i < base.length; i++) {
            index = index * base[i] + pattern[i] + 1;
        }
        counts[index] += times;
    }

    /** Takes a pattern and how often it was met. */
    interface Sink {
        void take(byte[] pattern, long times);
    }

    /** Every pattern that was met. The array is used again for the next. */
    void each(Sink sink) {
        byte[] pattern = new byte[base.length];
        for (int index = 0; index < counts.length; index++) {
            if (counts[index] > 0) {
                int rest = index;
                for (int i = base.length - 1; i >= 0; i--) {
                    pattern[i] = (byte) (rest % base[i] - 1);
                    rest /= base[i];
                }
                sink.take(pattern, counts[index]);
            }
        }
    }

    long total() {
        long total = 0;
        for (long count : counts) {
            total += count;
        }
        return total;
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
