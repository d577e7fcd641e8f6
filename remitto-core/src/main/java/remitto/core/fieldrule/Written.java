package remitto.core.fieldrule;

/** When a field may be written. */
public enum Written {
    ALWAYS,
    WHEN_CREATING,
    ONLY_IF_EMPTY_THERE,
    NEVER
}
