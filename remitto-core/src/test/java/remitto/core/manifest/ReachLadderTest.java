package remitto.core.manifest;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.tuple;

import java.util.List;
import java.util.OptionalLong;
import org.junit.jupiter.api.Test;
import remitto.core.cause.Cause;
import remitto.core.manifest.ReachLadder.Tally;
import remitto.core.run.RunCounts;

/** The sent count is never above the audience count, and the difference is fully explained: common practice, no source. */
class ReachLadderTest {
    private static Tally tally(Verdict verdict, String code, LineState state, String reason, long people) {
        return new Tally(verdict, Cause.read(code), state, reason, people);
    }

    @Test
    void everyLossIsAtItsStepWithItsReason() {
        RunCounts counts = new RunCounts(1_000, 12, 804, 0, 15, 50, 40, 103);
        ReachLadder ladder = ReachLadder.of(
                "email_sha256",
                counts,
                List.of(
                        tally(Verdict.ADDED, "", LineState.ACKNOWLEDGED, "", 800),
                        tally(Verdict.ADDED, "", LineState.REFUSED, "not a SHA-256", 4),
                        tally(Verdict.REMOVED, "consent", LineState.ACKNOWLEDGED, "No consent to news", 3),
                        tally(Verdict.REMOVED, "left", LineState.ACKNOWLEDGED, "Left the dataset", 12),
                        tally(Verdict.LEFT_OUT, "basis", LineState.NONE, "Not asked for consent to news", 100),
                        tally(Verdict.HELD, "empty:email_sha256", LineState.NONE, "email is empty", 25),
                        tally(Verdict.HELD, "claimed", LineState.NONE, "belongs to another", 10),
                        tally(Verdict.HELD, "unusable:port", LineState.NONE, "no such port", 5)),
                OptionalLong.of(640));
        assertThat(ladder.rungs())
                .extracting(ReachLadder.LadderStep::step, ReachLadder.LadderStep::people)
                .containsExactly(
                        tuple(ReachLadder.Step.IN_AUDIENCE, 1_000L),
                        tuple(ReachLadder.Step.ALLOWED, 897L),
                        tuple(ReachLadder.Step.HAS_ADDRESS, 872L),
                        tuple(ReachLadder.Step.COUNTED_ONCE, 862L),
                        tuple(ReachLadder.Step.ACCEPTED, 850L),
                        tuple(ReachLadder.Step.FOUND, 640L));
        assertThat(ladder.elsewhere()).isEqualTo(12);
        ReachLadder.LadderStep accepted = ladder.rungs().get(4);
        assertThat(accepted.losses())
                .extracting(ReachLadder.LadderLoss::reason, ReachLadder.LadderLoss::people)
                .contains(tuple("refused by the destination: not a SHA-256", 4L))
                // Three were left out without a line, which the sums say.
                .contains(tuple("left untouched, as this route is set", 3L));
        long explained = ladder.rungs().stream()
                .flatMap(rung -> rung.losses().stream())
                .mapToLong(ReachLadder.LadderLoss::people)
                .sum();
        assertThat(explained).isEqualTo(1_000 - 850);
    }

    @Test
    void whatIsNotSentYetIsNotReached() {
        ReachLadder ladder = ReachLadder.of(
                "mail",
                new RunCounts(10, 0, 10, 0, 0, 0, 0, 0),
                List.of(tally(Verdict.ADDED, "", LineState.PLANNED, "", 10)),
                OptionalLong.empty());
        assertThat(ladder.rungs()).hasSize(5);
        assertThat(ladder.rungs().get(4).people()).isZero();
        assertThat(ladder.rungs().get(4).losses().get(0).reason()).isEqualTo("not sent yet");
    }

    @Test
    void whoMayNotBeSentToAnyMoreIsLostWhereItIsAllowed() {
        ReachLadder ladder = ReachLadder.of(
                "mail",
                new RunCounts(10, 0, 10, 0, 0, 0, 0, 0),
                List.of(
                        tally(Verdict.ADDED, "", LineState.ACKNOWLEDGED, "", 8),
                        tally(Verdict.ADDED, "", LineState.FORBIDDEN, "No consent to news", 2)),
                OptionalLong.empty());
        assertThat(ladder.rungs())
                .extracting(ReachLadder.LadderStep::step, ReachLadder.LadderStep::people)
                .contains(tuple(ReachLadder.Step.ALLOWED, 8L), tuple(ReachLadder.Step.ACCEPTED, 8L));
        assertThat(ladder.rungs().get(1).losses().get(0).reason()).isEqualTo("No consent to news");
    }

    @Test
    void linesThatDoNotComeToTheSumsAreNoLadder() {
        assertThatThrownBy(() -> ReachLadder.of(
                        "mail",
                        new RunCounts(10, 0, 10, 0, 0, 0, 0, 0),
                        List.of(tally(Verdict.ADDED, "", LineState.ACKNOWLEDGED, "", 9)),
                        OptionalLong.empty()))
                .isInstanceOf(IllegalArgumentException.class)
                .hasMessageContaining("the ladder ends at 10 people");
    }

    /** People who left have a rung of their own, whatever became of them; nobody who stayed is counted with them. */
    @Test
    void leaversThatStayAsTheyAreAreNotReached() {
        ReachLadder ladder = ReachLadder.of(
                "mail",
                new RunCounts(10, 5, 4, 2, 1, 8, 0, 0),
                List.of(
                        tally(Verdict.ADDED, "", LineState.ACKNOWLEDGED, "", 3),
                        tally(Verdict.ADDED, "", LineState.ACKNOWLEDGED, "", 1),
                        tally(Verdict.CHANGED, "left", LineState.ACKNOWLEDGED, "Left the dataset", 2),
                        tally(Verdict.REMOVED, "left", LineState.ACKNOWLEDGED, "Left the dataset", 1),
                        tally(Verdict.UNCHANGED, "left", LineState.NONE, "Left the dataset", 2)),
                OptionalLong.empty());
        assertThat(ladder.elsewhere()).isEqualTo(5);
        assertThat(ladder.rungs().get(4).people()).isEqualTo(10);
        assertThat(ladder.rungs().get(4).losses()).isEmpty();
    }
}
