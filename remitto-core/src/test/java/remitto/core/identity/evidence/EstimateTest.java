package remitto.core.identity.evidence;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.SplittableRandom;
import org.junit.jupiter.api.Test;
import remitto.core.identity.compare.Comparison;
import remitto.core.identity.compare.Levels;

class EstimateTest {
    private static final double[][] M = {{0.9, 0.1}, {0.8, 0.2}, {0.95, 0.05}, {0.7, 0.3}};
    private static final double[][] U = {{0.1, 0.9}, {0.05, 0.95}, {0.2, 0.8}, {0.01, 0.99}};

    private static List<Levels> levels(int count) {
        List<Levels> levels = new ArrayList<>();
        for (int i = 0; i < count; i++) {
            levels.add(new Levels("a" + i, List.of(new Comparison.Same()), false));
        }
        return levels;
    }

    /** Weights as Fellegi and Sunter (1969) define them: log2(0.9/0.1) for agreement, log2(0.1/0.9) for its contrary. */
    @Test
    void weightsAreTheLogarithmOfTheRatio() {
        Weights.Odds odds = new Weights.Odds(-10, M, U);
        assertThat(odds.bits(0, 0)).isCloseTo(3.1699, within(1e-4));
        assertThat(odds.bits(0, 1)).isCloseTo(-3.1699, within(1e-4));
        assertThat(odds.bits(3, 0)).isCloseTo(6.1293, within(1e-4));
    }

    /** Pairs drawn from known shares: the estimate comes back to them. */
    @Test
    void expectationAndMaximisationFindsWhatPairsWereDrawnFrom() {
        Patterns patterns = new Patterns(levels(4));
        SplittableRandom random = new SplittableRandom(5);
        for (int i = 0; i < 200_000; i++) {
            double[][] from = random.nextDouble() < 0.3 ? M : U;
            byte[] pattern = new byte[4];
            for (int a = 0; a < 4; a++) {
                pattern[a] = (byte) (random.nextDouble() < 0.1 ? -1 : random.nextDouble() < from[a][0] ? 0 : 1);
            }
            patterns.add(pattern, 1);
        }
        double[][] guess = {{0.6, 0.4}, {0.6, 0.4}, {0.6, 0.4}, {0.6, 0.4}};
        Estimate found = new Estimate(0.1, 0, guess, guess).improvedOn(patterns, U, Set.of(), Set.of());
        assertThat(found.matches()).isCloseTo(0.3, within(0.01));
        for (int a = 0; a < 4; a++) {
            assertThat(found.m()[a][0]).isCloseTo(M[a][0], within(0.01));
        }
    }

    @Test
    void manyAttributesNeedNoRoomForWaysThatNeverOccur() {
        Patterns patterns = new Patterns(levels(30));
        byte[] pattern = new byte[30];
        patterns.add(pattern, 2);
        java.util.Arrays.fill(pattern, (byte) -1);
        patterns.add(pattern, 1);
        pattern[29] = 1;
        patterns.add(pattern, 4);
        List<String> met = new ArrayList<>();
        patterns.each((one, times) -> met.add(times + " of " + one[0] + " and " + one[29]));
        assertThat(met).containsExactlyInAnyOrder("2 of 0 and 0", "1 of -1 and -1", "4 of -1 and 1");
        assertThat(patterns.shares(29)[1]).isCloseTo(4.5 / 7, within(1e-9));
    }

    @Test
    void twoOfOneHouseholdAreToldFromOnePerson() {
        double[][] h = {{0.1, 0.9}, {0.9, 0.1}, {0.85, 0.15}, {0.01, 0.99}};
        Patterns patterns = new Patterns(levels(4));
        SplittableRandom random = new SplittableRandom(6);
        for (int i = 0; i < 300_000; i++) {
            double kind = random.nextDouble();
            double[][] from = kind < 0.3 ? M : kind < 0.5 ? h : U;
            byte[] pattern = new byte[4];
            for (int a = 0; a < 4; a++) {
                pattern[a] = (byte) (random.nextDouble() < from[a][0] ? 0 : 1);
            }
            patterns.add(pattern, 1);
        }
        double[][] m = {{0.85, 0.15}, {0.85, 0.15}, {0.85, 0.15}, {0.85, 0.15}};
        double[][] start = {U[0], {0.6, 0.4}, {0.6, 0.4}, U[3]};
        Estimate found = new Estimate(0.2, 0.1, m, start).improvedOn(patterns, U, Set.of(1, 2), Set.of());
        assertThat(found.matches()).isCloseTo(0.3, within(0.03));
        assertThat(found.mates()).isCloseTo(0.2, within(0.03));
        assertThat(found.h()[1][0]).isCloseTo(0.9, within(0.05));
        assertThat(found.h()[0]).as("not shared, so held fast").isEqualTo(U[0]);
    }
}
