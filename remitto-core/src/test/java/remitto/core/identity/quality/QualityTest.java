package remitto.core.identity.quality;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import org.junit.jupiter.api.Test;

class QualityTest {
    private static final int[] TRUTH = {1, 1, 1, 1, 1, 2, 2, 3, 3, 3, 3, 3};

    /** The two answers compared by Bagga and Baldwin (1998): precision 76% and 58%, recall 100% of both. */
    @Test
    void bCubedAsPublished() {
        Quality first = Quality.of(new int[] {1, 1, 1, 1, 1, 2, 2, 2, 2, 2, 2, 2}, TRUTH);
        assertThat(first.bCubedPrecision()).isCloseTo(0.76, within(0.005));
        assertThat(first.bCubedRecall()).isEqualTo(1, within(1e-9));
        Quality second = Quality.of(new int[] {1, 1, 1, 1, 1, 2, 2, 1, 1, 1, 1, 1}, TRUTH);
        assertThat(second.bCubedPrecision()).isCloseTo(0.58, within(0.005));
        assertThat(second.bCubedRecall()).isEqualTo(1, within(1e-9));
    }

    @Test
    void pairsAreCounted() {
        Quality quality = Quality.of(new int[] {1, 1, 1, 2, 2}, new int[] {1, 1, 2, 2, 2});
        assertThat(quality.pairs()).isEqualTo(4);
        assertThat(quality.truePairs()).isEqualTo(4);
        assertThat(quality.right()).isEqualTo(2);
        assertThat(quality.precision()).isEqualTo(0.5);
        assertThat(quality.recall()).isEqualTo(0.5);
        assertThat(quality.f1()).isEqualTo(0.5);
    }

    @Test
    void whatIsNotLabelledIsNotCounted() {
        Quality quality = Quality.of(new int[] {1, 1, 1}, new int[] {1, 1, -1});
        assertThat(quality.pairs()).isEqualTo(1);
        assertThat(quality.precision()).isEqualTo(1);
    }

    @Test
    void nothingJoinedIsPreciseAndFindsNothing() {
        Quality quality = Quality.of(new int[] {1, 2}, new int[] {1, 1});
        assertThat(quality.precision()).isEqualTo(1);
        assertThat(quality.recall()).isZero();
        assertThat(quality.f1()).isZero();
    }
}
