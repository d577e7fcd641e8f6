package remitto.core.fieldrule;

/** What happens when somebody edited the field in the destination since we last wrote it. */
public enum OnDrift {
    OVERWRITE,
    KEEP_THEIRS,
    HOLD_VALUE
}
