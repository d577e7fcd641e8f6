package remitto.server.job;

import java.util.Optional;

/**
 * Work that somebody asked for.
 *
 * @param doing what it is at, in words; blank before it begins
 * @param rows that it has gone through
 * @param result as JSON, once it is done
 * @param problem why it failed, in words
 */
public record Job(long id, State state, String doing, long rows, Optional<String> result, String problem) {
    public enum State {
        UNDER_WAY,
        DONE,
        FAILED,
        /** By whoever asked, or since nobody looked at it any more. */
        CANCELLED
    }
}
