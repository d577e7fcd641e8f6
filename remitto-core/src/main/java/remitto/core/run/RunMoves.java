package remitto.core.run;

import java.util.EnumSet;
import java.util.Set;

/**
 * From which state to which a run may go. Whoever writes a state down asks here, so that two who decide about one run at the same
 * time cannot both be right: the second finds it in a state that his does not follow.
 */
public final class RunMoves {
    private RunMoves() {}

    /** The states that this one may follow; none for a state that a run begins in. */
    public static Set<RunState> before(RunState next) {
        return switch (next) {
            case PREPARING, SKIPPED -> EnumSet.noneOf(RunState.class);
            case READY, AWAITING_APPROVAL, INTERRUPTED, FAILED -> EnumSet.of(RunState.PREPARING);
            case SENDING -> EnumSet.of(RunState.READY, RunState.AWAITING_APPROVAL, RunState.SUSPENDED);
            case SENT -> EnumSet.of(RunState.PREPARING, RunState.SENDING);
            case SUSPENDED -> EnumSet.of(RunState.SENDING);
            case DISCARDED -> EnumSet.of(RunState.READY, RunState.AWAITING_APPROVAL);
            case CANCELLED -> EnumSet.of(RunState.PREPARING, RunState.SENDING, RunState.SUSPENDED);
        };
    }

    /** The states in which a record that is tried on its own may fail: nobody is asked how it goes on, so that it never halts for a fault. */
    public static Set<RunState> beforeATrialFails() {
        return EnumSet.of(RunState.PREPARING, RunState.READY, RunState.SENDING);
    }

    public static boolean may(RunState from, RunState next) {
        return before(next).contains(from);
    }

    /** What becomes of a manifest that waits and is given up: what was begun to be sent is cancelled, what never was is discarded. */
    public static RunState givenUp(RunState waiting) {
        return waiting == RunState.SUSPENDED ? RunState.CANCELLED : RunState.DISCARDED;
    }
}
