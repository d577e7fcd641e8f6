package remitto.core.fieldrule;

/** What happens when the expression failed, or the value would be refused. Not the same as empty. */
public enum IfUnusable {
    HOLD_VALUE,
    HOLD_RECORD,
    LEAVE
}
