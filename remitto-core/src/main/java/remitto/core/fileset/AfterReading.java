package remitto.core.fileset;

/** What becomes of a file once it was read. */
public enum AfterReading {
    LEAVE,
    /** It goes to the folder {@code read} beside it. */
    ARCHIVE,
    /** It is deleted, unless some of its rows are held. */
    DELETE
}
