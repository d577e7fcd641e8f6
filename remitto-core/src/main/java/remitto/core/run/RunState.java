package remitto.core.run;

/** Where a run stands. */
public enum RunState {
    PREPARING,
    /** Prepared; waits for somebody to send it. */
    READY,
    /** Prepared; a guard stopped it and it waits for an approver. */
    AWAITING_APPROVAL,
    SENDING,
    SENT,
    /** Some lines are still to be sent, since the destination stopped taking calls. */
    SUSPENDED,
    DISCARDED,
    CANCELLED,
    /** The process that prepared it died; nothing was sent. */
    INTERRUPTED,
    FAILED,
    /** A departure that did not take place, with the reason. */
    SKIPPED;

    /** True when somebody has to decide how it goes on. */
    public boolean waits() {
        return this == READY || this == AWAITING_APPROVAL || this == SUSPENDED;
    }

    /** True when a server is at work on it. */
    public boolean isUnderWay() {
        return this == PREPARING || this == SENDING;
    }

    /** True when nothing more becomes of it. */
    public boolean isOver() {
        return !waits() && !isUnderWay();
    }
}
