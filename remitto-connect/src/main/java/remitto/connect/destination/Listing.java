package remitto.connect.destination;

import java.time.Instant;
import java.util.List;
import java.util.Optional;
import remitto.connect.destination.Destination.RemoteRecord;
import remitto.core.destination.ObjectDescription;

/** A destination that lists its records. */
public interface Listing {
    /** True when it lists what changed since a moment, deletions among it. */
    boolean tellsChanges();

    /**
     * Every record, or those changed since a moment, a page at a time.
     *
     * @param cursor from the page before; absent for the first
     * @throws DestinationProblem if the tool does not list by a moment, and one is given
     */
    Page list(ObjectDescription object, Optional<Instant> since, Optional<String> cursor);

    /** @param next absent on the last page */
    record Page(List<RemoteRecord> records, List<String> deleted, Optional<String> next) {}
}
