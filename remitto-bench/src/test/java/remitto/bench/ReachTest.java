package remitto.bench;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.Test;

class ReachTest {
    private static final int ONE = 1;
    private static final int OTHER = 2;

    @Test
    void whatSharesAValueAndWhatAChainConnectsIsReached() {
        int[] reached = Reach.of(
                new String[][] {
                    {"a@sol.example", ""}, {"b@sol.example", "+4791000001"}, {"a@sol.example", "+4791000001"}
                },
                new int[] {ONE, ONE, ONE});
        assertThat(reached[1]).isEqualTo(reached[0]);
        assertThat(reached[2]).isEqualTo(reached[0]);
    }

    @Test
    void whatSharesNothingIsNotNorByWayOfBlanks() {
        int[] reached = Reach.of(
                new String[][] {{"a@sol.example", ""}, {"b@sol.example", ""}, {"", "a@sol.example"}},
                new int[] {ONE, ONE, ONE});
        assertThat(reached).doesNotHaveDuplicates();
    }

    @Test
    void othersReachNobodyEvenWithTheSameValues() {
        int[] reached = Reach.of(
                new String[][] {{"home@sol.example", "1"}, {"home@sol.example", "2"}, {"x@sol.example", "1"}},
                new int[] {ONE, OTHER, OTHER});
        assertThat(reached).doesNotHaveDuplicates();
    }
}
