package remitto.core.identity.rule;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.SplittableRandom;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import remitto.core.identity.evidence.Weights;
import remitto.core.identity.record.Links;
import remitto.core.identity.rule.MatchRules.Thresholds;

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

    private static Links spread(long seed) {
        SplittableRandom random = new SplittableRandom(seed);
        Links links = new Links();
        for (int i = 0; i < 5_000; i++) {
            links.add(2 * i, 2 * i + 1, random.nextDouble() * 20 - 4, -1);
        }
        return links;
    }

    /** What is joined keeps the promise, in tenths of bits, and no more pairs are asked about than somebody looks at. */
    @ParameterizedTest
    @CsvSource({"0.95, 100", "0.99, 100", "0.999, 700", "0.9999, 0"})
    void cutsComeToWhatIsAskedFor(double precision, int asked) {
        Links links = spread(5);
        Weights.Cuts cuts = Expected.cuts(links, new MatchRules.TargetPrecision(precision, asked));
        assertThat(Expected.from(links, cuts.join()).precision()).isGreaterThanOrEqualTo(precision);
        assertThat(Expected.from(links, cuts.join() - 0.1).precision()).isLessThan(precision);
        long between =
                links.from(cuts.ask()).size() - (long) links.from(cuts.join()).size();
        assertThat(between).isEqualTo(asked);
        assertThat(cuts.ask()).isLessThanOrEqualTo(cuts.join());
    }

    /** However right the others are, a pair that is more likely two persons is not joined for their sake. */
    @Test
    void evenOddsAreTheLeast() {
        Links links = new Links();
        for (int i = 0; i < 1_000; i++) {
            links.add(2 * i, 2 * i + 1, 20, -1);
        }
        links.add(5_000, 5_001, -1, -1);
        assertThat(Expected.cuts(links, new MatchRules.TargetPrecision(0.99, 10)))
                .isEqualTo(new Weights.Cuts(0, Thresholds.LEAST));
    }

    /** Where nothing is as sure as asked for, nothing is joined but by rule, and the strongest are asked about. */
    @Test
    void nothingIsJoinedWhereNothingIsSureEnough() {
        Links links = new Links();
        links.add(0, 1, 2.5, -1);
        links.add(2, 3, 1.5, -1);
        links.add(4, 5, 0.5, 0);
        assertThat(Expected.cuts(links, new MatchRules.TargetPrecision(0.999, 1)))
                .isEqualTo(new Weights.Cuts(3, 2.5));
        assertThat(Expected.cuts(new Links(), new MatchRules.TargetPrecision(0.999, 1)))
                .isEqualTo(new Weights.Cuts(1, Thresholds.LEAST));
    }

    /** Records that agree in everything weigh the same: all of them are joined, or asked about, or none. */
    @Test
    void whatWeighsTheSameIsTreatedTheSame() {
        Links links = new Links();
        for (int i = 0; i < 400; i++) {
            links.add(2 * i, 2 * i + 1, 9.452441, -1);
            links.add(1_000 + 2 * i, 1_001 + 2 * i, -1.7, -1);
        }
        links.add(5_000, 5_001, -0.3, -1);
        Weights.Cuts cuts = Expected.cuts(links, new MatchRules.TargetPrecision(0.99, 100));
        assertThat(Expected.from(links, cuts.join()).joined()).isEqualTo(400);
        assertThat(links.from(cuts.ask()).size()).isEqualTo(401);
        Weights.Cuts none = Expected.cuts(links, new MatchRules.TargetPrecision(0.99, 0));
        assertThat(none.ask()).isEqualTo(none.join());
        assertThat(links.from(none.ask()).size()).isEqualTo(400);
    }

    @Test
    void anAimThatIsNoneIsSaidSo() {
        assertThat(new MatchRules.TargetPrecision(0.995, 200).faults()).isEmpty();
        assertThat(new MatchRules.TargetPrecision(0.4, 200).faults()).hasSize(1);
        assertThat(new MatchRules.TargetPrecision(Double.NaN, -1).faults()).hasSize(2);
        assertThat(new MatchRules.TargetPrecision(1, 1_000_001).faults()).hasSize(2);
    }
}
