package remitto.core.manifest;

import java.time.Instant;
import java.util.Optional;
import remitto.core.value.Value;

/**
 * The outcome for one field.
 *
 * @param old the value there before; missing when the record is new or the value was not read
 * @param fresh the value the rule gives; missing when it gives none
 * @param reason why, in words; blank when the outcome speaks for itself
 * @param until when a value that waits is looked at again; absent when nothing but a change brings that about
 * @param mark fingerprint of the column whose change lets the field be written; 0 for none
 * @param otherRoute the name of another route that wrote the value there before; blank for none
 */
public record FieldDecision(
        String field,
        FieldOutcome outcome,
        Value old,
        Value fresh,
        String reason,
        Optional<Instant> until,
        long mark,
        String otherRoute) {

    /** Until no time at all, but until a route that comes first in the field lets go of it. */
    public static final Instant OTHER_LETS_GO = Instant.MAX;

    /** An outcome that waits for nothing. */
    public FieldDecision(String field, FieldOutcome outcome, Value old, Value fresh, String reason) {
        this(field, outcome, old, fresh, reason, Optional.empty(), 0, "");
    }

    FieldDecision until(Instant time) {
        return new FieldDecision(field, outcome, old, fresh, reason, Optional.of(time), mark, otherRoute);
    }

    FieldDecision marked(long fingerprint) {
        return new FieldDecision(field, outcome, old, fresh, reason, until, fingerprint, otherRoute);
    }

    FieldDecision over(String route) {
        return new FieldDecision(field, outcome, old, fresh, reason, until, mark, route);
    }
}
