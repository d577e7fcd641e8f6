package remitto.connect.destination;

import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import remitto.core.destination.ObjectDescription;
import remitto.core.manifest.FieldPast;
import remitto.core.value.Value;

/**
 * A tool that receives data. Reading calls retry by themselves and throw {@link DestinationProblem}; writing calls
 * are made once and say what came of them, since only the caller knows what to do about an unknown outcome.
 */
public interface Destination {

    /** A sentence about whom the tool takes us for. */
    String check();

    List<ObjectSummary> objects();

    ObjectDescription describe(String object);

    /** Records whose field has one of the values; {@code by} may be {@link #ID}. */
    List<RemoteRecord> find(ObjectDescription object, String by, List<Value> values);

    /**
     * Every record, or those changed since a moment, a page at a time.
     *
     * @param cursor from the page before; absent for the first
     * @throws DestinationProblem if the tool offers no such list
     */
    Listed list(ObjectDescription object, Optional<Instant> since, Optional<String> cursor);

    /** What the tool tells of a list; nothing where it tells nothing. */
    default ListFacts list(String object) {
        return ListFacts.NOTHING;
    }

    /**
     * @param members on it, @param found of them, whom the tool knows, @param smallest members it needs before the tool makes
     *     use of it
     */
    record ListFacts(OptionalLong members, OptionalLong found, OptionalLong smallest) {
        static final ListFacts NOTHING =
                new ListFacts(OptionalLong.empty(), OptionalLong.empty(), OptionalLong.empty());
    }

    /** Whether lists can be made from here. */
    default boolean makesLists() {
        return false;
    }

    /**
     * Makes an empty list.
     *
     * @return its name among the objects
     * @throws DestinationProblem if the tool refuses, or it is not known whether it did it
     */
    default String makeList(String title) {
        throw new DestinationProblem(DestinationProblem.Kind.REFUSED, "Lists are not made here from outside.");
    }

    /** Where people say there themselves what they agree to; absent where nothing of the kind is known. */
    default Optional<Answers> answers() {
        return Optional.empty();
    }

    /**
     * @param object that holds people, @param address field of their e-mail address or phone number
     * @param field that holds what they said, @param no the values of it that mean no
     */
    record Answers(String object, String address, String field, List<String> no) {}

    /** Adds records; one that is there already is refused by the tool. */
    CallOutcome add(Batch batch);

    /** Changes records by the tool's own id; one that is not there is refused by the tool. */
    CallOutcome update(Batch batch);

    /** Removes records by the tool's own id. */
    CallOutcome remove(Batch batch);

    /**
     * Records that go in one call.
     *
     * @param keyField the field that is the key
     * @param onceKey stays the same when the same call is made again
     * @param leave asked immediately before the call, which is not made without it
     */
    record Batch(ObjectDescription object, String keyField, List<Outgoing> records, String onceKey, Leave leave) {
        /** Records whose call may be made whenever it comes to it. */
        public Batch(ObjectDescription object, String keyField, List<Outgoing> records, String onceKey) {
            this(object, keyField, records, onceKey, Leave.ALWAYS);
        }

        public Batch {
            records = List.copyOf(records);
        }
    }

    /** @param next absent on the last page */
    record Listed(List<RemoteRecord> records, List<String> deleted, Optional<String> next) {}

    /** Stands for the tool's own id in {@link #find}. */
    String ID = "id";

    record ObjectSummary(String name, String title, boolean people, boolean list) {}

    /** @param stamps by field, where the tool tells when and by whom each was last written */
    record RemoteRecord(String id, Map<String, Value> fields, Map<String, FieldPast.Stamp> stamps) {
        /** A record of which the tool tells no times. */
        public RemoteRecord(String id, Map<String, Value> fields) {
            this(id, fields, Map.of());
        }
    }

    /**
     * A record to be written.
     *
     * @param id the tool's own id; blank when it is added
     * @param key the value of the key field
     * @param contents what it gets
     */
    record Outgoing(String id, Value key, Contents contents) {
        /** @param fields values by field; empty clears it */
        public Outgoing(String id, Value key, Map<String, Value> fields) {
            this(id, key, Contents.of(fields));
        }

        /** Values by field; empty clears it. */
        public Map<String, Value> fields() {
            return contents.values();
        }
    }

    /**
     * The tool's answer for one record of a call.
     *
     * @param movedOn the record was there when it should not be, or the other way round
     */
    record RecordResult(boolean accepted, boolean movedOn, String outcome, String id, List<FieldProblem> problems) {
        public String reason() {
            return problems.isEmpty()
                    ? outcome
                    : String.join(
                            "; ", problems.stream().map(FieldProblem::message).toList());
        }
    }

    record FieldProblem(String field, String message) {}

    /** A call as it went over the line, without its credentials. @param request the beginning of it, if it is long */
    record Exchange(String method, String address, String request, int status, String answer) {}

    /** What came of a writing call. */
    sealed interface CallOutcome {
        /** One result per record, in their order. */
        record Answered(List<RecordResult> results, Exchange exchange) implements CallOutcome {}

        /** Asked to wait; nothing was taken. */
        record Throttled(Optional<java.time.Duration> retryAfter) implements CallOutcome {}

        /** Nothing left this machine, or the tool could not be reached at all. */
        record NotSent(String reason) implements CallOutcome {}

        /** Refused as a whole. {@code retriable}: the tool may take the same call later. */
        record Failed(int status, String reason, boolean retriable, Exchange exchange) implements CallOutcome {}

        /** No answer that can be read: the write may or may not have taken effect. */
        record Unknown(String reason) implements CallOutcome {}
    }
}
