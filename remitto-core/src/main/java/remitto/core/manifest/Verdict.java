package remitto.core.manifest;

/** What a run makes of one record. */
public enum Verdict {
    ADDED,
    CHANGED,
    REMOVED,
    UNCHANGED,
    HELD,
    /** Not meant for this route, with the reason. */
    LEFT_OUT
}
