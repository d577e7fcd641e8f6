package remitto.core.run;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayDeque;
import java.util.Deque;
import java.util.EnumSet;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.EnumSource;

/** The whole table of moves, written down once more by hand. */
class RunMovesTest {
    private static String after(RunState from) {
        return List.of(RunState.values()).stream()
                .filter(next -> RunMoves.may(from, next))
                .map(RunState::name)
                .collect(Collectors.toCollection(TreeSet::new))
                .toString();
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = ';',
            value = {
                "PREPARING; [AWAITING_APPROVAL, CANCELLED, FAILED, INTERRUPTED, READY, SENT]",
                "READY; [DISCARDED, SENDING]",
                "AWAITING_APPROVAL; [DISCARDED, SENDING]",
                "SENDING; [CANCELLED, SENT, SUSPENDED]",
                "SUSPENDED; [CANCELLED, SENDING]",
                "SENT; []",
                "DISCARDED; []",
                "CANCELLED; []",
                "INTERRUPTED; []",
                "FAILED; []",
                "SKIPPED; []"
            })
    void whereARunMayGo(RunState from, String next) {
        assertThat(after(from)).isEqualTo(next);
    }

    @ParameterizedTest
    @EnumSource(RunState.class)
    void nothingBecomesOfARunThatIsOverAndSomethingOfEveryOther(RunState state) {
        assertThat(after(state).equals("[]")).isEqualTo(state.isOver());
    }

    @Test
    void everyStateIsReachedFromOneThatARunBeginsIn() {
        Set<RunState> seen = EnumSet.noneOf(RunState.class);
        Deque<RunState> next = new ArrayDeque<>(List.of(RunState.PREPARING, RunState.SKIPPED));
        while (!next.isEmpty()) {
            RunState state = next.pop();
            if (seen.add(state)) {
                List.of(RunState.values()).stream()
                        .filter(one -> RunMoves.may(state, one))
                        .forEach(next::add);
            }
        }
        assertThat(seen).containsExactlyInAnyOrder(RunState.values());
    }

    @ParameterizedTest
    @EnumSource(RunState.class)
    void whatIsGivenUpEndsInAStateThatFollows(RunState state) {
        assertThat(RunMoves.may(state, RunMoves.givenUp(state)))
                .as("a manifest that waits, and no other, unless it is cancelled")
                .isEqualTo(state.waits());
    }

    /** The states a trial fails in are those it goes through: none in which somebody else could have decided about it. */
    @Test
    void aTrialFailsWhereverItIs() {
        assertThat(RunMoves.beforeATrialFails()).allMatch(state -> !state.isOver());
        assertThat(RunMoves.beforeATrialFails()).containsAll(RunMoves.before(RunState.FAILED));
        assertThat(RunMoves.beforeATrialFails()).doesNotContain(RunState.AWAITING_APPROVAL, RunState.SUSPENDED);
    }
}
