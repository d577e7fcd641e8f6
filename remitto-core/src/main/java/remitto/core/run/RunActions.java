package remitto.core.run;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import remitto.core.approval.FourEyes;

/** Which actions a run allows, when, and to whom. */
public final class RunActions {
    private RunActions() {}

    /**
     * Somebody who decides.
     *
     * @param who the id of their account
     * @param mayDecide whether their role lets them decide about runs at all
     * @param mayApprove whether it lets them approve what a guard stopped
     */
    public record Decider(String who, boolean mayDecide, boolean mayApprove) {}

    /**
     * An action that fits the state of the run.
     *
     * @param allowed whether this person may do it now
     * @param why they may not, in words; empty when they may
     */
    public record RunChoice(RunAction action, boolean allowed, String why) {}

    /** The actions that fit the run as it stands, in the order they are offered; none that makes no sense in its state. */
    public static List<RunChoice> of(RunSituation run, Decider decider) {
        List<RunChoice> choices = new ArrayList<>();
        for (RunAction action : RunAction.values()) {
            if (unfit(action, run).isEmpty()) {
                Optional<String> why = against(action, run, decider);
                choices.add(new RunChoice(action, why.isEmpty(), why.orElse("")));
            }
        }
        return choices;
    }

    /** Why somebody may not do it now, in words that help; empty when they may. */
    public static Optional<String> against(RunAction action, RunSituation run, Decider decider) {
        Optional<String> unfit = unfit(action, run);
        if (unfit.isPresent()) {
            return unfit;
        }
        if (!decider.mayDecide()) {
            return Optional.of("An editor decides about it.");
        }
        return switch (action) {
            case APPROVE -> FourEyes.against(decider.who(), decider.mayApprove(), run.parts());
            case UNDO -> againstUndo(run);
            case SEND, DISCARD, PREPARE_AGAIN, CANCEL, PREPARE_NEW -> Optional.empty();
        };
    }

    /** Why it makes no sense in the run's state, whoever asks. */
    private static Optional<String> unfit(RunAction action, RunSituation run) {
        return switch (action) {
            case SEND -> unfitToSend(run);
            case APPROVE ->
                run.state() == RunState.AWAITING_APPROVAL
                        ? Optional.empty()
                        : Optional.of("No guard stopped this manifest.");
            case DISCARD, PREPARE_AGAIN -> unless(run.state().waits(), doesNotWait(run));
            case CANCEL -> unless(run.state().isUnderWay(), "This run is not under way.");
            case UNDO -> unfitToUndo(run);
            case PREPARE_NEW ->
                unless(run.state().isOver(), "This manifest is not finished yet, so no other can be prepared.");
        };
    }

    private static Optional<String> unfitToSend(RunSituation run) {
        if (run.state() == RunState.AWAITING_APPROVAL) {
            return Optional.of("A guard stopped this. An approver decides about it.");
        }
        if (run.state() == RunState.SUSPENDED && run.suspension() == Suspension.PAUSED) {
            return Optional.of("The route is paused. The remaining lines are prepared again when it resumes.");
        }
        return unless(run.state().waits(), doesNotWait(run));
    }

    private static Optional<String> unfitToUndo(RunSituation run) {
        if (!run.sent() || run.acknowledged() == 0) {
            return Optional.of("Nothing of this manifest was sent, so there is nothing to undo.");
        }
        if (run.state().isUnderWay()) {
            return Optional.of("This run is in progress. Cancel it or wait until it ends.");
        }
        return unless(run.state().isOver(), "This manifest is waiting. Send or discard the remaining lines first.");
    }

    private static Optional<String> againstUndo(RunSituation run) {
        if (!run.linesKept()) {
            return Optional.of(
                    "The lines of this manifest were deleted after the retention period, so the previous values are unknown.");
        }
        return run.waiting()
                .map(waiting -> "Manifest " + waiting + " of this route is waiting. Send or discard it first.");
    }

    private static Optional<String> unless(boolean fits, String why) {
        return fits ? Optional.empty() : Optional.of(why);
    }

    private static String doesNotWait(RunSituation run) {
        return "This manifest is not waiting to be sent; it is "
                + run.state().name().toLowerCase(Locale.ROOT) + ".";
    }
}
