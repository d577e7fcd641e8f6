package remitto.core.receiver;

/** What became of a call. */
public enum CallVerdict {
    /** It is kept and not laid out in columns yet. */
    WAITING,
    /** Its records are rows. */
    KEPT,
    /** Something of it does not fit; it is kept as it came, and tried again when the receiver changes. */
    HELD,
    /** All of its events were known already. */
    DOUBLE,
    /** It is not of the tool that it says, or is not what is taken; nothing of it is used. */
    REFUSED
}
