package remitto.core.expectation;

import java.time.Instant;
import java.util.List;
import java.util.Optional;

/**
 * What is known of a read besides its rows.
 *
 * @param rows that it had
 * @param newest the newest updated-at; absent without one
 * @param now when it was read
 * @param earlier rows of the last reads, in no certain order
 */
public record ReadFacts(long rows, Optional<Instant> newest, Instant now, List<Long> earlier) {
    public ReadFacts {
        earlier = List.copyOf(earlier);
    }
}
