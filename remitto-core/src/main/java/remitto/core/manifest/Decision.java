package remitto.core.manifest;

import java.time.Instant;
import java.util.List;
import java.util.Optional;
import remitto.core.cause.Cause;
import remitto.core.cause.CauseKind;

/**
 * The verdict for one record with the outcome of every field that has a rule.
 *
 * @param cause by which held records are grouped
 * @param reason why, in words; blank when the verdict speaks for itself
 * @param remoteId the destination's own id of the record this one is bound to or matched with
 */
public record Decision(
        Verdict verdict, Cause cause, String reason, Optional<String> remoteId, List<FieldDecision> fields) {
    public Decision {
        fields = List.copyOf(fields);
    }

    /** The fields that will be sent. */
    public List<FieldDecision> written() {
        return fields.stream()
                .filter(field -> field.outcome() == FieldOutcome.WRITTEN)
                .toList();
    }

    /** When a value that waits is to be looked at again; the earliest of them. */
    public Optional<Instant> recheckAt() {
        return fields.stream().flatMap(field -> field.until().stream()).min(Instant::compareTo);
    }

    /** What would be sent to somebody is left for another day; anything else stays as decided. */
    public Decision quiet(String why) {
        return verdict == Verdict.ADDED || verdict == Verdict.CHANGED
                ? new Decision(Verdict.LEFT_OUT, Cause.of(CauseKind.QUIET), why, remoteId, List.of())
                : this;
    }

    /**
     * What would be sent for a row that does not meet what is expected of it is held; anything else stays as decided.
     *
     * @param column that does not
     */
    public Decision unexpected(String column, String why) {
        return verdict == Verdict.ADDED || verdict == Verdict.CHANGED || verdict == Verdict.REMOVED
                ? new Decision(Verdict.HELD, Cause.about(CauseKind.UNEXPECTED, column), why, remoteId, List.of())
                : this;
    }

    public boolean holdsAnyValue() {
        return fields.stream().anyMatch(field -> field.outcome() == FieldOutcome.HELD);
    }
}
