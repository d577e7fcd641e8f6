package remitto.core.run;

/** Where a run stands. */
public enum RunState {
    DRAWING,
    /** Drawn up; waits for somebody to send it. */
    DRAWN,
    /** Drawn up; a guard stopped it and it waits for an approver. */
    STOPPED,
    SENDING,
    SENT,
    /** Some lines are still to be sent, since the destination stopped taking calls. */
    HALTED,
    DISCARDED,
    CANCELLED,
    /** The process that drew it up died; nothing was sent. */
    INTERRUPTED,
    FAILED,
    /** A departure that did not take place, with the reason. */
    SKIPPED;

    /** True when somebody has to decide how it goes on. */
    public boolean waits() {
        return this == DRAWN || this == STOPPED || this == HALTED;
    }

    /** True when a server is at work on it. */
    public boolean isUnderWay() {
        return this == DRAWING || this == SENDING;
    }

    /** True when nothing more becomes of it. */
    public boolean isOver() {
        return !waits() && !isUnderWay();
    }
}
