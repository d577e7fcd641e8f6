package remitto.connect.destination;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import remitto.core.destination.ObjectDescription;
import remitto.core.manifest.FieldPast;
import remitto.core.value.Value;

/**
 * A tool that receives data: what any of them can tell, and which of the rest this one can do. Whatever asks retries by itself and
 * throws {@link DestinationProblem}.
 */
public interface Destination {

    /** A sentence about whom the tool takes us for. */
    String check();

    List<ObjectSummary> objects();

    ObjectDescription describe(String object);

    /** How single records are looked up; absent where they cannot be. */
    Optional<Finding> finding();

    /** How all records are listed; absent where they cannot be. */
    Optional<Listing> listing();

    /** How records are written; absent where whole files are taken. */
    Optional<Writing> writing();

    /** How files are taken; absent where records are. */
    Optional<WholeFiles> files();

    /** How lists are made; absent where that cannot be done from outside. */
    Optional<ListMaking> listMaking();

    /** Where people say there themselves what they agree to; absent where nothing of the kind is known. */
    Optional<Answers> answers();

    /**
     * The address of the tool's own page of a record, as a URI template (RFC 6570, level 1) of {@code object} and
     * {@code id}; absent where it has none.
     */
    Optional<String> recordPage();

    /** What the tool tells of a list; nothing where it tells nothing. */
    ListFacts listFacts(String object);

    /**
     * @param members on it
     * @param found of them, whom the tool knows
     * @param smallest members it needs before the tool makes use of it
     */
    record ListFacts(OptionalLong members, OptionalLong found, OptionalLong smallest) {
        public static final ListFacts NOTHING =
                new ListFacts(OptionalLong.empty(), OptionalLong.empty(), OptionalLong.empty());
    }

    /**
     * @param object that holds people
     * @param address field of their e-mail address or phone number
     * @param field that holds what they said
     * @param no the values of it that mean no
     */
    record Answers(String object, String address, String field, List<String> no) {}

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

    /** Stands for the tool's own id in {@link Finding#find}. */
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

    /**
     * One call with its answer.
     *
     * A call as it went over the line, without its credentials.
     *
     * @param request the beginning of it, if it is long
     */
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
