package remitto.server.run;

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

    public boolean waits() {
        return this == DRAWN || this == STOPPED || this == HALTED;
    }
}
