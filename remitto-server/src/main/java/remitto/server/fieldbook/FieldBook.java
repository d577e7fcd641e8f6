package remitto.server.fieldbook;

import java.time.Instant;
import java.util.List;
import java.util.Optional;
import remitto.core.destination.Field;
import remitto.server.route.FieldOrders;
import remitto.server.route.FieldOwners;

/**
 * Every field of a destination object with all that is known of who writes it.
 *
 * @param countedAt when what is there was last counted; absent when it never was
 * @param there records that were there then
 * @param known records that routes keep there
 */
record FieldBook(
        long destinationId,
        String destination,
        String object,
        String title,
        Optional<Instant> countedAt,
        long there,
        long known,
        List<BookField> fields,
        List<BookClient> clients) {

    /**
     * One field.
     *
     * @param order in which several routes write it, where that is settled
     * @param filled records there that held a value at the last stocktake; absent without one
     * @param knownFilled records of which a value is known
     * @param distinct different values among those
     * @param lastWritten when a route last wrote it
     * @param shareChanged share of the rows read in the last ten runs for which it was written, 0 to 1
     * @param stale rules write it, and none did for a month
     */
    record BookField(
            Field field,
            List<BookRule> rules,
            Optional<BookConflict> conflict,
            Optional<FieldOwners.Owner> owner,
            Optional<FieldOrders.FieldOrder> order,
            Optional<Long> filled,
            long knownFilled,
            long distinct,
            Optional<Instant> lastWritten,
            double shareChanged,
            boolean stale,
            List<BookWriter> others) {}

    /**
     * A rule that writes the field.
     *
     * @param inService it is part of the version in service
     */
    record BookRule(long routeId, String route, boolean inService, boolean setAside, String sentence) {}

    /** How a conflict arises. */
    enum ConflictKind {
        TWO_ROUTES,
        ANOTHER_TOOL
    }

    /** Routes that write one field by different rules. */
    record BookConflict(ConflictKind kind, String text, boolean settled) {}

    /** Somebody else whose values the field holds. */
    record BookWriter(String client, long values, Instant newest) {}

    /**
     * Everything known to write to the object.
     *
     * @param us it is Remitto's own login
     * @param fields that hold values of theirs
     */
    record BookClient(String client, boolean us, long values, List<String> fields, Instant newest) {}
}
