package remitto.core.run;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.EnumSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.EnumSource;
import remitto.core.approval.FourEyes;

/** Who may do what with a run, state by state. */
class RunActionsTest {
    private static final RunActions.Decider VIEWER = new RunActions.Decider("7", false, false);
    private static final RunActions.Decider EDITOR = new RunActions.Decider("8", true, false);
    private static final RunActions.Decider APPROVER = new RunActions.Decider("9", true, true);

    /** As if five lines had been taken before the run came to be in the state. */
    private static RunSituation in(RunState state) {
        return in(state, Suspension.NONE, 5, true, Optional.empty(), List.of());
    }

    private static RunSituation in(
            RunState state,
            Suspension suspension,
            long acknowledged,
            boolean linesKept,
            Optional<Long> waiting,
            List<FourEyes.Part> parts) {
        return new RunSituation(state, suspension, acknowledged > 0, acknowledged, linesKept, waiting, parts);
    }

    private static String offered(RunSituation run, RunActions.Decider decider) {
        return String.join(
                " ",
                RunActions.of(run, decider).stream()
                        .map(choice -> (choice.allowed() ? "" : "not:") + choice.action())
                        .toList());
    }

    @ParameterizedTest
    @CsvSource({
        "PREPARING, CANCEL",
        "READY, SEND DISCARD PREPARE_AGAIN",
        "AWAITING_APPROVAL, APPROVE DISCARD PREPARE_AGAIN",
        "SENDING, CANCEL",
        "SENT, UNDO PREPARE_NEW",
        "SUSPENDED, SEND DISCARD PREPARE_AGAIN",
        "DISCARDED, UNDO PREPARE_NEW",
        "CANCELLED, UNDO PREPARE_NEW",
        "INTERRUPTED, UNDO PREPARE_NEW",
        "FAILED, UNDO PREPARE_NEW",
        "SKIPPED, UNDO PREPARE_NEW"
    })
    void whatIsOfferedInEachState(RunState state, String actions) {
        assertThat(offered(in(state), APPROVER)).isEqualTo(actions);
    }

    @ParameterizedTest
    @EnumSource(RunState.class)
    void everyRunWaitsIsUnderWayOrIsOver(RunState state) {
        List<Boolean> each = List.of(state.waits(), state.isUnderWay(), state.isOver());
        assertThat(each.stream().filter(one -> one)).hasSize(1);
    }

    @ParameterizedTest
    @EnumSource(RunState.class)
    void aViewerIsToldWhoDecidesAndDoesNothing(RunState state) {
        assertThat(RunActions.of(in(state), VIEWER)).isNotEmpty().allSatisfy(choice -> {
            assertThat(choice.allowed()).isFalse();
            assertThat(choice.why()).isEqualTo("An editor decides about it.");
        });
    }

    @Test
    void whatAGuardStoppedIsApprovedByAnApproverWhoHadNoPartInIt() {
        List<FourEyes.Part> parts = List.of(new FourEyes.Part("9", "changed the route"));
        RunSituation stopped = in(RunState.AWAITING_APPROVAL, Suspension.NONE, 0, true, Optional.of(4L), parts);
        assertThat(RunActions.against(RunAction.APPROVE, stopped, EDITOR))
                .contains("A guard stopped this. An approver decides about it.");
        assertThat(RunActions.against(RunAction.APPROVE, stopped, APPROVER))
                .contains("You changed the route since this was last approved, so somebody else approves it.");
        assertThat(RunActions.against(RunAction.APPROVE, stopped, new RunActions.Decider("10", true, true)))
                .isEmpty();
        assertThat(RunActions.against(RunAction.SEND, stopped, APPROVER))
                .as("it is never just sent")
                .contains("A guard stopped this. An approver decides about it.");
    }

    @Test
    void whatAPauseKeptIsNotSentButDrawnUpAnew() {
        RunSituation paused = in(RunState.SUSPENDED, Suspension.PAUSED, 5, true, Optional.of(4L), List.of());
        assertThat(offered(paused, EDITOR)).isEqualTo("DISCARD PREPARE_AGAIN");
        for (Suspension suspension : EnumSet.complementOf(EnumSet.of(Suspension.PAUSED))) {
            assertThat(offered(in(RunState.SUSPENDED, suspension, 5, true, Optional.of(4L), List.of()), EDITOR))
                    .as(suspension.name())
                    .isEqualTo("SEND DISCARD PREPARE_AGAIN");
        }
    }

    @Test
    void whatWasSentIsTakenBackWhileItsLinesAreThereAndNothingElseWaits() {
        assertThat(offered(in(RunState.SENT), EDITOR)).isEqualTo("UNDO PREPARE_NEW");
        assertThat(offered(in(RunState.SENT, Suspension.NONE, 0, true, Optional.empty(), List.of()), EDITOR))
                .as("of nothing")
                .isEqualTo("PREPARE_NEW");
        assertThat(RunActions.against(
                        RunAction.UNDO,
                        in(RunState.SENT, Suspension.NONE, 5, false, Optional.empty(), List.of()),
                        EDITOR))
                .contains(
                        "The lines of this manifest were deleted after the retention period, so the previous values are unknown.");
        assertThat(RunActions.against(
                        RunAction.UNDO,
                        in(RunState.SENT, Suspension.NONE, 5, true, Optional.of(12L), List.of()),
                        EDITOR))
                .contains("Manifest 12 of this route is waiting. Send or discard it first.");
        assertThat(RunActions.against(RunAction.UNDO, in(RunState.SENDING), EDITOR))
                .contains("This run is in progress. Cancel it or wait until it ends.");
        assertThat(RunActions.against(RunAction.UNDO, in(RunState.SUSPENDED), EDITOR))
                .contains("This manifest is waiting. Send or discard the remaining lines first.");
    }

    /** What is offered and what is refused come from one rule: nothing is offered as allowed that is then refused, nor left out that would be let through. */
    @Test
    void whatIsNotOfferedIsRefusedAndWhatIsAllowedIsNot() {
        Map<Boolean, Set<Long>> sent = Map.of(true, Set.of(0L, 5L), false, Set.of(0L));
        List<RunSituation> all = new ArrayList<>();
        for (RunState state : RunState.values()) {
            for (Suspension suspension : Suspension.values()) {
                sent.forEach((begun, counts) -> counts.forEach(count -> {
                    for (Optional<Long> waiting : List.of(Optional.<Long>empty(), Optional.of(3L))) {
                        for (boolean kept : List.of(true, false)) {
                            all.add(new RunSituation(state, suspension, begun, count, kept, waiting, List.of()));
                        }
                    }
                }));
            }
        }
        assertThat(all).hasSize(RunState.values().length * Suspension.values().length * 12);
        for (RunSituation run : all) {
            for (RunActions.Decider decider : List.of(VIEWER, EDITOR, APPROVER)) {
                Set<RunAction> allowed = EnumSet.noneOf(RunAction.class);
                RunActions.of(run, decider).stream()
                        .filter(RunActions.RunChoice::allowed)
                        .forEach(choice -> allowed.add(choice.action()));
                for (RunAction action : RunAction.values()) {
                    assertThat(RunActions.against(action, run, decider).isEmpty())
                            .as(action + " of " + run + " by " + decider)
                            .isEqualTo(allowed.contains(action));
                }
            }
        }
    }
}
