package remitto.core.identity.evidence;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.List;
import java.util.SplittableRandom;
import org.junit.jupiter.api.Test;
import remitto.core.identity.compare.Comparison;
import remitto.core.identity.compare.Levels;
import remitto.core.identity.evidence.Calibration.DecidedPair;

class CalibrationTest {
    private static final Levels EMAIL = new Levels("email", List.of(new Comparison.Same()), true);
    private static final Levels BORN = new Levels("born", List.of(new Comparison.Same()), false);
    private static final Weights WEIGHTS = weights();

    private static Weights weights() {
        double[][] m = {{0.8, 0.2}, {0.9, 0.1}};
        double[][] u = {{0.1, 0.9}, {0.05, 0.95}};
        Weights.Odds odds = new Weights.Odds(-2, m, u);
        return new Weights(1_000, List.of(EMAIL, BORN), List.of(true, true), odds, odds);
    }

    private static double weight(byte[] pattern, double emailShift) {
        double weight = -2;
        for (int i = 0; i < pattern.length; i++) {
            weight += pattern[i] < 0 ? 0 : WEIGHTS.strangers().bits(i, pattern[i]);
        }
        return weight + (pattern[0] == 0 ? emailShift : 0);
    }

    /** Pairs decided as chance has it, when the same e-mail address is worth so much more than was estimated. */
    private static List<DecidedPair> decided(int pairs, double emailShift) {
        SplittableRandom random = new SplittableRandom(5);
        List<DecidedPair> decided = new ArrayList<>();
        for (int i = 0; i < pairs; i++) {
            byte[] pattern = {(byte) random.nextInt(2), (byte) (random.nextInt(3) - 1)};
            double truth = 1 / (1 + Math.pow(2, -weight(pattern, emailShift)));
            decided.add(new DecidedPair(pattern, weight(pattern, 0), random.nextDouble() < truth));
        }
        return decided;
    }

    private static double moved(List<Weights.FixedWeight> fixed, String attribute, int level) {
        int at = attribute.equals("email") ? 0 : 1;
        return fixed.stream()
                .filter(one -> one.attribute().equals(attribute) && one.level() == level)
                .mapToDouble(one -> one.bits() - WEIGHTS.strangers().bits(at, level))
                .findFirst()
                .orElse(0);
    }

    @Test
    void manyDecisionsMoveTheWeightThatWasWrongAndLeaveTheOthers() {
        List<Weights.FixedWeight> fixed = Calibration.of(WEIGHTS, decided(4_000, 2));
        assertThat(moved(fixed, "email", 0)).isBetween(1.4, 2.6);
        assertThat(Math.abs(moved(fixed, "born", 0))).isLessThan(0.6);
        assertThat(Math.abs(moved(fixed, "born", 1))).isLessThan(0.6);
    }

    @Test
    void fewDecisionsMoveLittleAndNoneNothing() {
        assertThat(Calibration.of(WEIGHTS, List.of())).isEmpty();
        List<Weights.FixedWeight> one = Calibration.of(
                WEIGHTS, List.of(new DecidedPair(new byte[] {0, 1}, weight(new byte[] {0, 1}, 0), true)));
        assertThat(moved(one, "email", 0)).isBetween(0.0, 1.5);
    }

    @Test
    void decisionsThatTheEstimatesExpectedMoveNothingMuch() {
        List<Weights.FixedWeight> fixed = Calibration.of(WEIGHTS, decided(4_000, 0));
        fixed.forEach(one ->
                assertThat(Math.abs(moved(fixed, one.attribute(), one.level()))).isLessThan(0.6));
    }
}
