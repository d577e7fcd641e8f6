package remitto.core.identity.evidence;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.SplittableRandom;
import org.junit.jupiter.api.Test;

class PoolingTest {
    /** Whatever was counted, who agrees better does not weigh less, and shares stay shares. */
    @Test
    void agreeingBetterNeverWeighsLess() {
        SplittableRandom random = new SplittableRandom(41);
        for (int round = 0; round < 20_000; round++) {
            int count = 2 + random.nextInt(6);
            int rows = 1 + random.nextInt(3);
            double[] m = shares(random, count, rows);
            double[] u = shares(random, count, rows);
            double[] before = m.clone();
            Pooling.inOrder(m, u, count);
            for (int row = 0; row < rows; row++) {
                double sum = 0;
                for (int level = 0; level < count; level++) {
                    int at = row * count + level;
                    sum += m[at];
                    if (level > 0) {
                        assertThat(m[at] / u[at]).isLessThanOrEqualTo(m[at - 1] / u[at - 1] * (1 + 1e-9));
                    }
                }
                assertThat(sum).isCloseTo(sum(before, row, count), within(1e-9));
            }
        }
    }

    private static double sum(double[] shares, int row, int count) {
        double sum = 0;
        for (int level = 0; level < count; level++) {
            sum += shares[row * count + level];
        }
        return sum;
    }

    private static double[] shares(SplittableRandom random, int count, int rows) {
        double[] shares = new double[count * rows];
        for (int at = 0; at < shares.length; at++) {
            shares[at] = Math.pow(random.nextDouble(), 6) + 1e-9;
        }
        return shares;
    }

    @Test
    void whatIsInOrderStaysAsItIs() {
        double[] m = {0.9, 0.08, 0.02};
        Pooling.inOrder(m, new double[] {0.01, 0.04, 0.95}, 3);
        assertThat(m).containsExactly(new double[] {0.9, 0.08, 0.02}, within(1e-12));
    }

    /** Two levels the wrong way round weigh the same: (0.1 + 0.5) / (0.2 + 0.1) is 2. */
    @Test
    void neighboursTheWrongWayRoundAreTakenTogether() {
        double[] m = {0.1, 0.5, 0.4};
        double[] u = {0.2, 0.1, 0.7};
        Pooling.inOrder(m, u, 3);
        assertThat(m).containsExactly(new double[] {0.4, 0.2, 0.4}, within(1e-12));
    }
}
