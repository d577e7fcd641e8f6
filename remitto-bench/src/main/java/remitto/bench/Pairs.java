package remitto.bench;

import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Locale;

/**
 * Two ways to do the same, each set against the other of its pair, since the machine is noisy. Which goes first alternates, so that
 * neither always meets what the other left behind.
 */
final class Pairs {
    static final int FEWEST = 15;
    /** What may lie beyond the interval on each side. */
    private static final double TAIL = 0.05;

    private final int warmUps;
    private final int pairs;
    private final Before before;

    /** Does what is to be done before each side, such as a checkpoint; not timed. */
    interface Before {
        void prepare() throws Exception;
    }

    /**
     * One side of a pair.
     *
     * @return seconds
     */
    interface Side {
        double seconds() throws Exception;
    }

    /**
     * The ratio of ours to theirs.
     *
     * @param low of the 90 % interval of the median
     * @param high of it
     */
    record Ratio(double median, double low, double high, int pairs) {
        /** As in {@code ratio=2.61 low=2.50 high=2.70 pairs=15}. */
        @Override
        public String toString() {
            return String.format(Locale.ROOT, "ratio=%.2f low=%.2f high=%.2f pairs=%d", median, low, high, pairs);
        }
    }

    /** @param warmUps pairs that do not count, since both sides are still being compiled while they run */
    Pairs(int warmUps, int pairs, Before before) {
        this.warmUps = warmUps;
        this.pairs = pairs;
        this.before = before;
    }

    Ratio run(Side ours, Side theirs) throws Exception {
        List<Double> ratios = new ArrayList<>();
        for (int i = 0; i < warmUps + pairs; i++) {
            boolean oursFirst = i % 2 == 0;
            double first = timed(oursFirst ? ours : theirs);
            double second = timed(oursFirst ? theirs : ours);
            double our = oursFirst ? first : second;
            double their = oursFirst ? second : first;
            System.out.printf(
                    Locale.ROOT,
                    "%sours %.2f s, theirs %.2f s, ratio %.2f, %s first%n",
                    i < warmUps ? "warm-up: " : "",
                    our,
                    their,
                    our / their,
                    oursFirst ? "ours" : "theirs");
            if (i >= warmUps) {
                ratios.add(our / their);
            }
        }
        return of(ratios);
    }

    private double timed(Side side) throws Exception {
        before.prepare();
        return side.seconds();
    }

    /**
     * Median and its interval by order statistics: between which two of the sorted values it lies with a confidence of 90 % or more, by
     * the binomial distribution, whatever the values' own (David and Nagaraja, Order Statistics, section 7.1; from memory).
     */
    static Ratio of(List<Double> values) {
        List<Double> sorted = new ArrayList<>(values);
        Collections.sort(sorted);
        int n = sorted.size();
        double median = n % 2 == 1 ? sorted.get(n / 2) : (sorted.get(n / 2 - 1) + sorted.get(n / 2)) / 2;
        int out = beyond(n);
        return new Ratio(median, sorted.get(out), sorted.get(n - 1 - out), n);
    }

    /** How many of the lowest, and as many of the highest, may be left out. */
    private static int beyond(int n) {
        double chance = Math.pow(0.5, n);
        double sum = chance;
        int out = 0;
        while (sum <= TAIL && out < n / 2) {
            chance = chance * (n - out) / (out + 1);
            if (sum + chance > TAIL) {
                return out;
            }
            sum += chance;
            out++;
        }
        return out;
    }
}
