package remitto.core.manifest;

import java.time.Instant;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import remitto.core.cause.CauseKind;
import remitto.core.fieldrule.FieldRule;
import remitto.core.fieldrule.Written;
import remitto.core.known.RecordState;
import remitto.core.route.Mode;
import remitto.core.route.RouteSpec;
import remitto.core.route.ShapedField;
import remitto.core.route.ShapedRecord;
import remitto.core.value.Value;

/**
 * A record with what it was judged by.
 *
 * @param intended fingerprint of what the rules want to be there
 */
public record JudgedRecord(ShapedRecord shaped, MatchResult matchResult, Decision decision, long intended) {

    /** Nothing depends on another look: every rule gave a usable value that was not held. */
    public boolean isSettled() {
        return !decision.holdsAnyValue() && decision.verdict() != Verdict.HELD;
    }

    /** A value waits, or theirs was kept against a rule that would always write: worth a line though nothing goes. */
    public boolean withholds() {
        Set<String> insisting = shaped.fields().stream()
                .map(ShapedField::rule)
                .filter(rule -> rule.written() == Written.ALWAYS || rule.written() == Written.IF_NEWER)
                .map(FieldRule::field)
                .collect(Collectors.toSet());
        return decision.fields().stream()
                .anyMatch(field -> field.outcome() == FieldOutcome.WAITS
                        || field.outcome() == FieldOutcome.KEPT
                                && insisting.contains(field.field())
                                && !field.fresh().isEmpty()
                                && !field.fresh().equals(field.old()));
    }

    /** What was intended, once it is carried out; 0 while a value waits, so that equal intentions do not pass for that. */
    public long carriedOut() {
        return decision.fields().stream().anyMatch(field -> field.outcome() == FieldOutcome.WAITS) ? 0 : intended;
    }

    /** What its line carries of that: nothing while another look is needed. */
    public long carriedOutByLine() {
        return isSettled() ? carriedOut() : 0;
    }

    /** What the row and what lies beyond it said is kept with the line, to explain it by. */
    public boolean isWorthExplaining() {
        return goes() || decision.holdsAnyValue();
    }

    private boolean goes() {
        return decision.verdict() == Verdict.ADDED || decision.verdict() == Verdict.CHANGED;
    }

    /** Outcomes of fields that its line tells: where something goes, nothing of fields that are the same there. */
    public List<FieldDecision> told() {
        return decision.fields().stream()
                .filter(field -> field.outcome() != FieldOutcome.SAME || !goes())
                .toList();
    }

    /** Values that are the same there and here, by field. */
    public Map<String, Value> same() {
        Map<String, Value> same = new HashMap<>();
        decision.fields().stream()
                .filter(field -> field.outcome() == FieldOutcome.SAME)
                .forEach(field -> same.put(field.field(), field.fresh()));
        return same;
    }

    /** When the destination was read for it; absent where it was not. */
    public Optional<Instant> readAt() {
        if (matchResult instanceof MatchResult.Matched there) {
            return Optional.of(there.readAt());
        }
        return matchResult instanceof MatchResult.Unmatched notThere
                ? Optional.of(notThere.readAt())
                : Optional.empty();
    }

    public Becoming becomes(RouteSpec spec) {
        boolean found = matchResult instanceof MatchResult.Matched there && there.matchedNow();
        if (decision.verdict() != Verdict.UNCHANGED) {
            boolean asItWas = decision.cause().is(CauseKind.THERE_BEFORE) && isSettled();
            return new Becoming(
                    found && decision.verdict() == Verdict.CHANGED,
                    false,
                    true,
                    asItWas ? Optional.of(RecordState.THERE_BEFORE) : Optional.empty(),
                    false);
        }
        return new Becoming(
                found,
                found,
                withholds(),
                isSettled() ? Optional.of(RecordState.NONE) : Optional.empty(),
                isUnderAnotherEntry(spec));
    }

    /** On a list, whoever has another address now is the same person under another entry. */
    private boolean isUnderAnotherEntry(RouteSpec spec) {
        if (spec.mode() != Mode.MEMBERSHIP
                || !(matchResult instanceof MatchResult.Matched there)
                || there.matchedNow()) {
            return false;
        }
        String entry = shaped.value(spec.match().get(0)).display();
        return !entry.isEmpty() && !entry.equals(there.remoteId());
    }
}
