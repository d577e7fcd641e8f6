package remitto.core.fieldrule;

/** Who decides about a field of an object that both sides edit. A name for choices that are made one by one. */
public enum Direction {
    /** What the source says is written, whatever was edited there. */
    SOURCE,
    /** What the destination holds stands. */
    DESTINATION,
    /** The value that appeared last, on whichever side. */
    NEWEST,
    /** A value that was changed on both sides waits for a person. */
    HOLD_ON_CONFLICT,
    /** Another mixture of choices. */
    MIXED;

    static Direction of(Written written, OnDrift onDrift) {
        return switch (written) {
            case ALWAYS ->
                switch (onDrift) {
                    case OVERWRITE -> SOURCE;
                    case HOLD_VALUE -> HOLD_ON_CONFLICT;
                    case KEEP_THEIRS -> MIXED;
                };
            case IF_NEWER -> NEWEST;
            case DESTINATION_DECIDES, NEVER -> DESTINATION;
            case WHEN_CREATING, ONLY_IF_EMPTY_THERE -> MIXED;
        };
    }
}
