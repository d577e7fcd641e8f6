package remitto.core.identity.record;

import java.util.Arrays;

/** Pairs of records with what speaks for their being one person. Grows; used by one thread while it does. */
public final class Links {
    private int[] ones = new int[1024];
    private int[] others = new int[1024];
    private float[] weights = new float[1024];
    private byte[] rules = new byte[1024];
    private int size;

    /** @param rule number of the rule that joins them whatever the weight; -1 for none */
    public void add(int one, int other, double weight, int rule) {
        if (size == ones.length) {
            ones = Arrays.copyOf(ones, size * 2);
            others = Arrays.copyOf(others, size * 2);
            weights = Arrays.copyOf(weights, size * 2);
            rules = Arrays.copyOf(rules, size * 2);
        }
        ones[size] = Math.min(one, other);
        others[size] = Math.max(one, other);
        weights[size] = (float) weight;
        rules[size++] = (byte) rule;
    }

    public void addAll(Links more) {
        for (int i = 0; i < more.size; i++) {
            add(more.ones[i], more.others[i], more.weights[i], more.rules[i]);
        }
    }

    /** Those that weigh as much, and those that a rule joins, in the same order. */
    public Links from(double least) {
        Links strong = new Links();
        for (int i = 0; i < size; i++) {
            if (rules[i] >= 0 || weights[i] >= least) {
                strong.add(ones[i], others[i], weights[i], rules[i]);
            }
        }
        return strong;
    }

    public int size() {
        return size;
    }

    /** The lower number of the two. */
    public int one(int link) {
        return ones[link];
    }

    public int other(int link) {
        return others[link];
    }

    /** In bits. */
    public double weight(int link) {
        return weights[link];
    }

    /** Number of the rule that joins them; -1 for none. */
    public int rule(int link) {
        return rules[link];
    }
}
