package remitto.core.fieldrule;

/** When a field may be written. {@link Timing} can put it off further. */
public enum Written {
    ALWAYS,
    WHEN_CREATING,
    ONLY_IF_EMPTY_THERE,
    /** Against a value that others wrote there, only if ours appeared later; see {@link Newer}. */
    IF_NEWER,
    /** Once, into an empty field; from then on what the destination holds stands, even when it is emptied. */
    DESTINATION_DECIDES,
    NEVER
}
