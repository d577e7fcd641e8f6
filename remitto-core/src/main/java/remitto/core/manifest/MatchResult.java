package remitto.core.manifest;

import java.time.Instant;
import java.util.List;
import java.util.Map;
import remitto.core.value.Value;

/** What is known of a record on the destination's side when it is judged. */
public sealed interface MatchResult {

    /** Looked up and not found. */
    record Unmatched(Instant readAt) implements MatchResult {}

    /**
     * Found, or bound earlier and read again.
     *
     * @param matchedBy the field it was found by; blank when it was bound before
     * @param live the values there, as of {@code readAt}
     * @param known what this product last wrote there and was acknowledged; no entry for other fields
     * @param undone values that were taken back by the rule of today; they are not written again
     * @param past of the fields whose rules ask for it
     * @param leftTo by field, a route that comes first in the field's order and wrote what is there
     * @param writtenBy by field, another route that wrote what is there
     */
    record Matched(
            String remoteId,
            String matchedBy,
            Map<String, Value> live,
            Instant readAt,
            Map<String, Value> known,
            Map<String, Value> undone,
            Map<String, FieldPast> past,
            Map<String, String> leftTo,
            Map<String, String> writtenBy)
            implements MatchResult {

        /** A record whose fields no other route comes first in. */
        public Matched(
                String remoteId,
                String matchedBy,
                Map<String, Value> live,
                Instant readAt,
                Map<String, Value> known,
                Map<String, Value> undone,
                Map<String, FieldPast> past) {
            this(remoteId, matchedBy, live, readAt, known, undone, past, Map.of(), Map.of());
        }

        /** A record of whose past nobody asks. */
        public Matched(
                String remoteId,
                String matchedBy,
                Map<String, Value> live,
                Instant readAt,
                Map<String, Value> known,
                Map<String, Value> undone) {
            this(remoteId, matchedBy, live, readAt, known, undone, Map.of());
        }

        /** A record with nothing undone. */
        public static Matched of(
                String remoteId, String matchedBy, Map<String, Value> live, Instant readAt, Map<String, Value> known) {
            return new Matched(remoteId, matchedBy, live, readAt, known, Map.of());
        }

        public Matched leftTo(Map<String, String> routes) {
            return new Matched(remoteId, matchedBy, live, readAt, known, undone, past, routes, writtenBy);
        }

        public Matched writtenBy(Map<String, String> routes) {
            return new Matched(remoteId, matchedBy, live, readAt, known, undone, past, leftTo, routes);
        }

        public boolean matchedNow() {
            return !matchedBy.isEmpty();
        }

        public FieldPast past(String field) {
            return past.getOrDefault(field, FieldPast.UNKNOWN);
        }

        /** The value of a field now; empty when it holds none. */
        public Value live(String field) {
            return live.getOrDefault(field, Value.EMPTY);
        }
    }

    /** More than one record there has the value. */
    record Ambiguous(String field, String value, List<String> remoteIds) implements MatchResult {}

    /** The record found belongs to another source record already. */
    record AlreadyBound(String remoteId, String otherKey) implements MatchResult {}

    /** Bound earlier, and no longer there. */
    record Deleted(String remoteId, Instant readAt) implements MatchResult {}
}
