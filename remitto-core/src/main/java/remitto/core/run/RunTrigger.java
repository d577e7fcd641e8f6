package remitto.core.run;

/** What started a run. */
public enum RunTrigger {
    HAND,
    TIMETABLE,
    /** One record tried on its own. */
    TRIAL,
    /** Held records retried. */
    RETRY,
    /** A sent manifest taken back. */
    UNDO;

    /** True when the run reads the whole dataset, so that it says something about every record. */
    public boolean whole() {
        return this == HAND || this == TIMETABLE;
    }

    /** True when its manifest is sent as soon as it is ready: a departure needs nobody's word, nor do held records that somebody asked to be tried again. */
    public boolean sendsItself() {
        return this == TIMETABLE || this == RETRY;
    }

    /** True when it begins again by itself after it was interrupted; of the others nobody knows any more which records were meant. */
    public boolean beginsAgain() {
        return whole() || this == UNDO;
    }
}
