package remitto.core.manifest;

/** What a run makes of one field of a record. */
public enum FieldOutcome {
    WRITTEN,
    SAME,
    /** Not written, by its rule. */
    KEPT,
    /** Not written now; will be, by its rule. */
    WAITS,
    HELD
}
