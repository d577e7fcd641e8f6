package remitto.core.run;

/** What somebody may decide about a run. */
public enum RunAction {
    /** Sends a manifest that waits, or the rest of one that halted. */
    SEND,
    /** Sends a manifest that a guard stopped. */
    APPROVE,
    /** Gives a manifest that waits up. */
    DISCARD,
    /** Gives a manifest that waits up, and prepares another from what is there now. */
    PREPARE_AGAIN,
    /** Ends a run that is under way, after the calls in flight. */
    CANCEL,
    /** Prepares the reverse of what was sent. */
    UNDO,
    /** Prepares another manifest of the route, once this one is over. */
    PREPARE_NEW
}
