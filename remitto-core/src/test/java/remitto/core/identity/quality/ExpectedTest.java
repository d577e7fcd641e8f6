package remitto.core.identity.quality;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.SplittableRandom;
import org.junit.jupiter.api.Test;
import remitto.core.identity.record.Links;

class ExpectedTest {
    /** Bits are odds: 0 is one in two, 3 eight in nine, 10 1024 in 1025. */
    @Test
    void aPairIsAsLikelyAsItsBitsSay() {
        Links links = new Links();
        links.add(0, 1, 10, -1);
        links.add(2, 3, 3, -1);
        links.add(4, 5, 0, -1);
        assertThat(Expected.from(links, 10).precision()).isCloseTo(1024 / 1025.0, within(1e-9));
        assertThat(Expected.from(links, 0).precision()).isCloseTo((1024 / 1025.0 + 8 / 9.0 + 0.5) / 3, within(1e-9));
        assertThat(Expected.from(links, 0).joined()).isEqualTo(3);
        assertThat(Expected.from(links, 11)).isEqualTo(new Expected(11, 0, 1));
    }

    @Test
    void whatARuleJoinsIsRightWhateverItWeighs() {
        Links links = new Links();
        links.add(0, 1, -7, 0);
        links.add(2, 3, 3, -1);
        assertThat(Expected.from(links, 5)).isEqualTo(new Expected(5, 1, 1));
        assertThat(Expected.forPrecision(links, 0.9).orElseThrow().joined()).isEqualTo(2);
    }

    /** The weight that is given keeps the promise, and the next pair below would break it. */
    @Test
    void theLowestWeightThatIsGoodEnough() {
        SplittableRandom random = new SplittableRandom(3);
        Links links = new Links();
        for (int i = 0; i < 5_000; i++) {
            links.add(2 * i, 2 * i + 1, random.nextDouble() * 20 - 4, -1);
        }
        for (double asked : new double[] {0.9, 0.95, 0.99, 0.999}) {
            Expected found = Expected.forPrecision(links, asked).orElseThrow();
            assertThat(found.precision()).isGreaterThanOrEqualTo(asked);
            assertThat(Expected.from(links, found.join()).joined()).isEqualTo(found.joined());
            assertThat(Expected.from(links, found.join()).precision()).isCloseTo(found.precision(), within(1e-9));
            assertThat(Expected.from(links, found.join() - 0.1).precision()).isLessThan(asked);
        }
    }

    @Test
    void whatCannotBePromisedIsNot() {
        Links links = new Links();
        links.add(0, 1, 2, -1);
        assertThat(Expected.forPrecision(links, 0.99)).isEmpty();
        assertThat(Expected.forPrecision(new Links(), 0.5)).isEmpty();
    }
}
