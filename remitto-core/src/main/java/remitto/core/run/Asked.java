package remitto.core.run;

/** What is asked of a server that works on a run, from the weakest to the strongest. */
public enum Asked {
    /** To go on to the end. */
    NOTHING,
    /** To leave it to another server: this one ends, or has lost the run. It decides nothing about the run. */
    LET_GO,
    /** To keep the rest. */
    PAUSE,
    /** To do no more. */
    CANCEL;

    /** Both at once: what somebody wishes of the run counts more than what befalls a server. */
    public Asked and(Asked other) {
        return compareTo(other) >= 0 ? this : other;
    }
}
