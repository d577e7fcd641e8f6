package remitto.bench;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.List;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class PairsTest {
    private static List<Double> upTo(int n) {
        return IntStream.rangeClosed(1, n).mapToObj(i -> (double) i).toList();
    }

    /** Ranks of the interval of a median by the sign test, as tables of the binomial distribution give them for 90 %. */
    @ParameterizedTest
    @CsvSource({"5, 1, 5", "7, 1, 7", "8, 2, 7", "10, 2, 9", "15, 4, 12", "20, 6, 15", "25, 8, 18"})
    void theIntervalIsBetweenTheRanksOfTheSignTest(int n, double low, double high) {
        Pairs.Ratio ratio = Pairs.of(upTo(n));
        assertThat(ratio.low()).isEqualTo(low);
        assertThat(ratio.high()).isEqualTo(high);
        assertThat(ratio.median()).isEqualTo((n + 1) / 2.0);
    }

    @Test
    void whicheverGoesFirstAlternatesAndEachIsPrepared() throws Exception {
        List<String> order = new ArrayList<>();
        Pairs.Ratio ratio = new Pairs(1, 3, () -> order.add("prepare"))
                .run(
                        () -> {
                            order.add("ours");
                            return 3;
                        },
                        () -> {
                            order.add("theirs");
                            return 2;
                        });
        assertThat(order)
                .containsExactly(
                        "prepare", "ours", "prepare", "theirs", "prepare", "theirs", "prepare", "ours", "prepare",
                        "ours", "prepare", "theirs", "prepare", "theirs", "prepare", "ours");
        assertThat(ratio).hasToString("ratio=1.50 low=1.50 high=1.50 pairs=3");
    }

    @Test
    void warmUpsDoNotCount() throws Exception {
        int[] calls = new int[1];
        Pairs.Ratio ratio = new Pairs(2, 5, () -> {}).run(() -> calls[0]++ < 2 ? 900 : 4, () -> 2);
        assertThat(ratio.high()).isEqualTo(2);
    }
}
