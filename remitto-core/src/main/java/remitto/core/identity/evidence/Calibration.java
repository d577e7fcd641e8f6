package remitto.core.identity.evidence;

import java.util.ArrayList;
import java.util.List;

/**
 * What people's decisions about pairs say of the weights: each way of agreeing weighs a little more or less than was estimated,
 * so that the decisions come out likelier. A logistic regression on the ledgers, held near the estimates by a ridge penalty
 * (le Cessie and van Houwelingen, Ridge estimators in logistic regression, Applied Statistics 41 (1992) 191), so that few
 * decisions move little.
 */
public final class Calibration {
    private static final int ROUNDS = 60;
    private static final double BIT = Math.log(2);
    /** How far, in bits, an adjustment usually goes; our choice. */
    private static final double SPREAD = 1.5;
    /** Smaller ones are not worth setting manually. */
    private static final double LEAST = 0.1;

    private Calibration() {}

    /**
     * A pair that somebody decided.
     *
     * @param pattern by attribute, the level it agrees in, {@link remitto.core.identity.compare.Comparer#MISSING} for none
     * @param weight in bits, as estimated
     */
    public record DecidedPair(byte[] pattern, double weight, boolean together) {}

    /** Weights to set manually; none where nothing or hardly anything would change. */
    public static List<Weights.FixedWeight> of(Weights estimated, List<DecidedPair> decided) {
        int attributes = estimated.levels().size();
        double[][] shift = new double[attributes][];
        for (int i = 0; i < attributes; i++) {
            shift[i] = new double[estimated.levels().get(i).count()];
        }
        for (int round = 0; round < ROUNDS; round++) {
            climb(shift, decided);
        }
        List<Weights.FixedWeight> fixed = new ArrayList<>();
        for (int i = 0; i < attributes; i++) {
            for (int level = 0; level < shift[i].length; level++) {
                if (Math.abs(shift[i][level]) >= LEAST) {
                    double bits = estimated.strangers().bits(i, level) + shift[i][level];
                    fixed.add(new Weights.FixedWeight(
                            estimated.levels().get(i).attribute(), level, Math.round(bits * 10) / 10.0));
                }
            }
        }
        return fixed;
    }

    /** One step of Newton's for each level in turn. */
    private static void climb(double[][] shift, List<DecidedPair> decided) {
        for (int i = 0; i < shift.length; i++) {
            for (int level = 0; level < shift[i].length; level++) {
                double slope = -shift[i][level] / (SPREAD * SPREAD);
                double bend = 1 / (SPREAD * SPREAD);
                for (DecidedPair pair : decided) {
                    if (pair.pattern()[i] == level) {
                        double likely = likely(pair, shift);
                        slope += ((pair.together() ? 1 : 0) - likely) * BIT;
                        bend += likely * (1 - likely) * BIT * BIT;
                    }
                }
                shift[i][level] += slope / bend;
            }
        }
    }

    private static double likely(DecidedPair pair, double[][] shift) {
        double weight = pair.weight();
        for (int i = 0; i < shift.length; i++) {
            weight += pair.pattern()[i] >= 0 ? shift[i][pair.pattern()[i]] : 0;
        }
        return 1 / (1 + Math.exp(-weight * BIT));
    }
}
