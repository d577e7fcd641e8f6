package remitto.core.identity.evidence;

import java.util.Arrays;
import java.util.Set;

/**
 * What is believed of the pairs of a block: some are one person, some two of one household, the others strangers. Attributes
 * are taken to agree independently of each other within each kind of pair, after Fellegi and Sunter (A theory for record
 * linkage, JASA 64 (1969) 1183); a mixture of more than two classes after Larsen and Rubin (JASA 96 (2001) 32).
 *
 * @param matches share of pairs that are one person
 * @param mates share of pairs that are two of one household; 0 leaves that kind out
 * @param m by attribute and level, how often one person's records agree so
 * @param h the same of two of one household
 */
public record Estimate(double matches, double mates, double[][] m, double[][] h) {
    private static final int MOST_ROUNDS = 300;
    private static final double SETTLED = 1e-7;
    private static final double LEAST = 1e-5;

    /**
     * By expectation and maximisation (Dempster, Laird and Rubin 1977; for linkage, Winkler 1988), with what is known of
     * strangers held fast.
     *
     * @param u by attribute and level, how often strangers agree so
     * @param shared attributes that households share; of the others {@code h} is held fast
     * @param blocked attributes that all pairs of the block agree in, which therefore say nothing
     */
    public Estimate improvedOn(Patterns patterns, double[][] u, Set<Integer> shared, Set<Integer> blocked) {
        Estimate now = this;
        for (int round = 0; round < MOST_ROUNDS; round++) {
            Estimate next = now.once(patterns, u, shared, blocked);
            double moved = Math.abs(next.matches - now.matches) + Math.abs(next.mates - now.mates);
            now = next;
            if (moved < SETTLED) {
                return now;
            }
        }
        return now;
    }

    private Estimate once(Patterns patterns, double[][] u, Set<Integer> shared, Set<Integer> blocked) {
        double[][] freshM = zeros(m);
        double[][] freshH = zeros(h);
        double[] sums = new double[3];
        double[] chances = new double[2];
        patterns.each((pattern, times) -> {
            chances(pattern, u, blocked, chances);
            sums[0] += chances[0] * times;
            sums[1] += chances[1] * times;
            sums[2] += times;
            for (int i = 0; i < pattern.length; i++) {
                if (pattern[i] >= 0 && !blocked.contains(i)) {
                    freshM[i][pattern[i]] += chances[0] * times;
                    freshH[i][pattern[i]] += chances[1] * times;
                }
            }
        });
        for (int i = 0; i < m.length; i++) {
            freshM[i] = shares(freshM[i], m[i]);
            freshH[i] = shared.contains(i) ? shares(freshH[i], h[i]) : h[i];
        }
        return new Estimate(
                share(sums[0], sums[2], matches), mates == 0 ? 0 : share(sums[1], sums[2], mates), freshM, freshH);
    }

    private static double[][] zeros(double[][] like) {
        return Arrays.stream(like).map(one -> new double[one.length]).toArray(double[][]::new);
    }

    private static double[] shares(double[] sums, double[] before) {
        double all = Arrays.stream(sums).sum();
        return all <= 0
                ? before
                : Arrays.stream(sums).map(one -> Math.max(LEAST, one / all)).toArray();
    }

    private static double share(double sum, double all, double before) {
        return all == 0 ? before : Math.min(1 - LEAST, Math.max(LEAST, sum / all));
    }

    /** The chances that a pair of this pattern is one person, and that it is two of one household. */
    private void chances(byte[] pattern, double[][] u, Set<Integer> blocked, double[] into) {
        double match = matches;
        double mate = mates;
        double stranger = Math.max(LEAST, 1 - matches - mates);
        for (int i = 0; i < pattern.length; i++) {
            if (pattern[i] >= 0 && !blocked.contains(i)) {
                match *= m[i][pattern[i]];
                mate *= h[i][pattern[i]];
                stranger *= u[i][pattern[i]];
            }
        }
        double all = match + mate + stranger;
        into[0] = match / all;
        into[1] = mate / all;
    }
}
