package remitto.core.fieldrule;

/** What happens when there is no value. */
public enum IfEmpty {
    LEAVE,
    CLEAR,
    DEFAULT,
    HOLD_RECORD
}
