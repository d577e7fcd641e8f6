package remitto.core.identity.evidence;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Set;
import java.util.SplittableRandom;
import org.junit.jupiter.api.Test;
import remitto.core.identity.compare.Comparison;
import remitto.core.identity.compare.Levels;

class MixtureTest {
    private static final double[][] M = {{0.9, 0.1}, {0.8, 0.2}, {0.95, 0.05}, {0.7, 0.3}};
    private static final double[][] U = {{0.1, 0.9}, {0.05, 0.95}, {0.2, 0.8}, {0.01, 0.99}};
    /** What is usual, as ten pairs: far less than what is drawn. */
    private static final double[][] USUAL = {{8.5, 1.5}, {8.5, 1.5}, {8.5, 1.5}, {8.5, 1.5}};

    private static List<Levels> levels(int count) {
        List<Levels> levels = new ArrayList<>();
        for (int i = 0; i < count; i++) {
            levels.add(new Levels("a" + i, List.of(new Comparison.Same()), false));
        }
        return levels;
    }

    private static byte[] drawn(SplittableRandom random, double[][] from) {
        byte[] pattern = new byte[from.length];
        for (int a = 0; a < from.length; a++) {
            pattern[a] = (byte) (random.nextDouble() < from[a][0] ? 0 : 1);
        }
        return pattern;
    }

    private static Mixture mixture(List<Mixture.Found> found, double[][] ofHousehold, Set<Integer> shared) {
        return new Mixture(levels(4), Beside.none(4), found, U, USUAL, ofHousehold, shared, Set.of());
    }

    private static Mixture.Found found(Patterns patterns, boolean place, Integer... blocked) {
        return new Mixture.Found(0, patterns.met(), Set.of(blocked), Set.of(blocked), place);
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
            byte[] pattern = drawn(random, random.nextDouble() < 0.3 ? M : U);
            for (int a = 0; a < 4; a++) {
                pattern[a] = random.nextDouble() < 0.1 ? -1 : pattern[a];
            }
            patterns.add(pattern, 1);
        }
        Mixture.Learnt learnt =
                mixture(List.of(found(patterns, false)), U, Set.of()).learn();
        assertThat(learnt.matches()).isCloseTo(60_000, within(1_500.0));
        assertThat(learnt.mates()).as("no place, no household").isZero();
        assertThat(learnt.strangers()[0]).isCloseTo(140_000, within(1_500.0));
        for (int a = 0; a < 4; a++) {
            assertThat(learnt.m()[a][0]).isCloseTo(M[a][0], within(0.01));
        }
    }

    /** What a key was made of says nothing of who is a match, however many strangers it finds. */
    @Test
    void aKeySaysNothingOfWhatItWasMadeFrom() {
        Patterns patterns = new Patterns(levels(4));
        SplittableRandom random = new SplittableRandom(8);
        for (int i = 0; i < 100_000; i++) {
            byte[] pattern = drawn(random, random.nextDouble() < 0.05 ? M : U);
            pattern[3] = 0;
            patterns.add(pattern, 1);
        }
        Mixture.Learnt learnt =
                mixture(List.of(found(patterns, false, 3)), U, Set.of()).learn();
        assertThat(learnt.matches()).isCloseTo(5_000, within(700.0));
    }

    @Test
    void aPairThatTwoKeysFindCountsOnce() {
        SplittableRandom random = new SplittableRandom(9);
        Patterns one = new Patterns(levels(4));
        Patterns other = new Patterns(levels(4));
        for (int i = 0; i < 50_000; i++) {
            byte[] pattern = drawn(random, random.nextDouble() < 0.4 ? M : U);
            one.add(pattern, 1, 0.5);
            other.add(pattern, 1, 0.5);
        }
        Mixture.Learnt learnt = mixture(List.of(found(one, false), found(other, false)), U, Set.of())
                .learn();
        assertThat(learnt.matches()).isCloseTo(20_000, within(800.0));
    }

    @Test
    void twoOfOneHouseholdAreToldFromOnePerson() {
        double[][] h = {{0.1, 0.9}, {0.9, 0.1}, {0.85, 0.15}, {0.01, 0.99}};
        Patterns patterns = new Patterns(levels(4));
        SplittableRandom random = new SplittableRandom(6);
        for (int i = 0; i < 300_000; i++) {
            double kind = random.nextDouble();
            patterns.add(drawn(random, kind < 0.3 ? M : kind < 0.5 ? h : U), 1);
        }
        double[][] usual = {U[0], {6, 4}, {6, 4}, U[3]};
        Mixture.Learnt learnt =
                mixture(List.of(found(patterns, true)), usual, Set.of(1, 2)).learn();
        assertThat(learnt.matches()).isCloseTo(90_000, within(9_000.0));
        assertThat(learnt.mates()).isCloseTo(60_000, within(9_000.0));
        assertThat(learnt.h()[1][0]).isCloseTo(0.9, within(0.05));
        assertThat(learnt.h()[0]).as("not shared, so held fast").isEqualTo(U[0]);
        Mixture.Learnt without = mixture(List.of(found(patterns, true).withoutPlace()), usual, Set.of(1, 2))
                .learn();
        assertThat(without.mates()).as("where no place is shared").isZero();
    }

    /** From no pairs at all comes what is usual, and no level is left without a weight. */
    @Test
    void whatNoPairTellsIsWhatIsUsual() {
        Patterns nothing = new Patterns(levels(4));
        Mixture.Learnt learnt =
                mixture(List.of(found(nothing, false)), U, Set.of()).learn();
        assertThat(learnt.m()[2][0]).isCloseTo(0.85, within(1e-9));
        assertThat(learnt.matches()).isZero();
        assertThat(learnt.seen()).containsOnly(0);
    }

    @Test
    void manyAttributesNeedNoRoomForWaysThatNeverOccur() {
        Patterns patterns = new Patterns(levels(30));
        byte[] pattern = new byte[30];
        patterns.add(pattern, 2);
        Arrays.fill(pattern, (byte) -1);
        patterns.add(pattern, 1);
        pattern[29] = 1;
        patterns.add(pattern, 4);
        List<String> met = patterns.met().stream()
                .map(one -> (int) one.times() + " of " + one.pattern()[0] + " and " + one.pattern()[29])
                .toList();
        assertThat(met).containsExactlyInAnyOrder("2 of 0 and 0", "1 of -1 and -1", "4 of -1 and 1");
        assertThat(patterns.shares(29)[1]).isCloseTo(4.5 / 7, within(1e-9));
    }
}
