package remitto.core.run;

/** Which runs stay in sight until somebody settles them, whatever else their route does meanwhile. */
public final class NeedsPerson {
    private NeedsPerson() {}

    /** Whether a run in this state waits for a decision, or for somebody to look at what went wrong. */
    public static boolean isOpen(RunState state, RunTrigger trigger) {
        return switch (state) {
            case AWAITING_APPROVAL, SUSPENDED, INTERRUPTED -> true;
            // Whoever tries a record is told at once.
            case FAILED -> trigger != RunTrigger.TRIAL;
            default -> false;
        };
    }

    /**
     * Whether a later run of the same route says all that an earlier one which failed would have said.
     *
     * @param failed what started the one that failed
     */
    public static boolean settles(RunTrigger failed, RunTrigger later, RunState state) {
        boolean tookPlace = state != RunState.SKIPPED && state != RunState.DISCARDED && state != RunState.CANCELLED;
        return tookPlace && (later == failed || later.whole() && failed != RunTrigger.UNDO);
    }
}
