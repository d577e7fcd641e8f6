package remitto.core.manifest;

/** Where a manifest line stands on its way. */
public enum LineState {
    /** Not to be sent: held or left out. */
    NONE,
    PLANNED,
    /** Written down as being sent, before the call; after a crash its outcome is unknown. */
    SENDING,
    ACKNOWLEDGED,
    REFUSED,
    /** No answer came; it is read back before anything else happens. */
    UNKNOWN,
    /** What was there changed after the manifest was prepared; not sent. */
    MOVED_ON,
    /** Nothing may be sent to it any more, or not now, though it was so when the manifest was prepared; not sent. */
    FORBIDDEN,
    /** Not sent, since the run was cancelled. */
    CANCELLED
}
