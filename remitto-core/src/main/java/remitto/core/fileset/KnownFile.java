package remitto.core.fileset;

import java.time.Instant;

/**
 * What is known of a file.
 *
 * @param file as it was listed when it was read, failed or was last seen
 * @param revision of the definition that it was read or failed by; 0 while it was only seen
 * @param seenAt since when it has been listed like this
 */
public record KnownFile(ListedFile file, State state, int revision, Instant seenAt) {
    /** How far it has come. */
    public enum State {
        /** It was listed and is not read yet. */
        SEEN,
        READ,
        /** It cannot be read as it is. */
        FAILED,
        /** A newer file is the whole. */
        SUPERSEDED
    }
}
