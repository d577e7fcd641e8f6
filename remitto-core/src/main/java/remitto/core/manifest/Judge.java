package remitto.core.manifest;

import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import remitto.core.cause.Cause;
import remitto.core.cause.CauseKind;
import remitto.core.destination.Field;
import remitto.core.fieldrule.FieldRule;
import remitto.core.fieldrule.IfEmpty;
import remitto.core.fieldrule.IfUnusable;
import remitto.core.fieldrule.Written;
import remitto.core.route.Mode;
import remitto.core.route.RouteSpec;
import remitto.core.route.ShapedField;
import remitto.core.route.ShapedRecord;
import remitto.core.shaper.Shaped;
import remitto.core.value.Value;

/** Turns a shaped record and what is known of it there into a verdict. A pure function of its arguments. */
public final class Judge {
    private Judge() {}

    /** The verdict for a record whose match result is known. */
    public static Decision judge(RouteSpec spec, ShapedRecord record, MatchResult matchResult) {
        if (record.statedNo() && spec.leavers().removes() && matchResult instanceof MatchResult.Matched there) {
            return there.matchedNow()
                    ? leftOut(record, matchResult)
                    : removed(there, Cause.of(CauseKind.CONSENT), record.leftOut());
        }
        if (!record.leftOut().isEmpty()) {
            return leftOut(record, matchResult);
        }
        if (matchResult instanceof MatchResult.Ambiguous several) {
            return held(
                    Cause.of(CauseKind.TWO_MATCHES),
                    several.remoteIds().size() + " records in the destination have " + several.field() + " = "
                            + several.value() + " (" + String.join(", ", several.remoteIds()) + ")",
                    Optional.empty());
        }
        if (matchResult instanceof MatchResult.AlreadyBound claimed) {
            return held(
                    Cause.of(CauseKind.CLAIMED),
                    "Record " + claimed.remoteId() + " in the destination already belongs to " + claimed.otherKey(),
                    Optional.of(claimed.remoteId()));
        }
        if (matchResult instanceof MatchResult.Deleted gone) {
            return held(
                    Cause.of(CauseKind.DELETED_THERE),
                    "Record " + gone.remoteId()
                            + " was deleted in the destination; it is not added again without a decision",
                    Optional.of(gone.remoteId()));
        }
        if (matchResult instanceof MatchResult.Matched there) {
            return present(spec, record, there);
        }
        return spec.mode() == Mode.REMOVE
                ? verdict(
                        Verdict.LEFT_OUT,
                        Cause.of(CauseKind.NOT_THERE),
                        "Not in the destination, so there is nothing to remove",
                        Optional.empty())
                : add(spec, record, ((MatchResult.Unmatched) matchResult).readAt());
    }

    private static Decision leftOut(ShapedRecord record, MatchResult matchResult) {
        return verdict(Verdict.LEFT_OUT, Cause.of(CauseKind.BASIS), record.leftOut(), remoteId(matchResult));
    }

    private static Decision present(RouteSpec spec, ShapedRecord record, MatchResult.Matched there) {
        if (there.matchedNow() && spec.mode() != Mode.REMOVE && spec.leavesWhatWasThere()) {
            return verdict(
                    Verdict.LEFT_OUT,
                    Cause.of(CauseKind.THERE_BEFORE),
                    "In the destination before this route, which leaves such records untouched",
                    Optional.of(there.remoteId()));
        }
        if (spec.mode() == Mode.REMOVE) {
            return removed(there, Cause.NONE, "");
        }
        if (spec.mode().onceOnly()) {
            return verdict(Verdict.UNCHANGED, Cause.NONE, "", Optional.of(there.remoteId()));
        }
        return update(spec, record, there);
    }

    /** A record that goes, with the values that go with it. */
    static Decision removed(MatchResult.Matched there, Cause cause, String reason) {
        List<FieldDecision> fields = there.live().entrySet().stream()
                .filter(entry -> !entry.getValue().isEmpty())
                .sorted(Map.Entry.comparingByKey())
                .map(entry ->
                        new FieldDecision(entry.getKey(), FieldOutcome.WRITTEN, entry.getValue(), Value.EMPTY, ""))
                .toList();
        return new Decision(Verdict.REMOVED, cause, reason, Optional.of(there.remoteId()), fields);
    }

    private static Decision add(RouteSpec spec, ShapedRecord record, Instant at) {
        if (!spec.mode().adds()) {
            return verdict(
                    Verdict.LEFT_OUT,
                    Cause.of(CauseKind.NOT_THERE),
                    "Not in the destination, and this route only updates",
                    Optional.empty());
        }
        List<FieldDecision> fields = new ArrayList<>();
        for (ShapedField shaped : record.fields()) {
            Optional<Decision> hold = holdsRecord(spec, shaped, Optional.empty(), true);
            if (hold.isPresent()) {
                return hold.get();
            }
            fields.add(FieldJudge.onAdd(shaped, at));
        }
        return new Decision(Verdict.ADDED, Cause.NONE, "", Optional.empty(), fields);
    }

    private static Decision update(RouteSpec spec, ShapedRecord record, MatchResult.Matched there) {
        if (!spec.mode().updates()) {
            return verdict(
                    Verdict.LEFT_OUT,
                    Cause.of(CauseKind.ALREADY_THERE),
                    "Already in the destination, and this route only adds",
                    Optional.of(there.remoteId()));
        }
        Optional<String> id = Optional.of(there.remoteId());
        List<FieldDecision> fields = new ArrayList<>();
        for (ShapedField shaped : record.fields()) {
            Optional<Decision> hold = holdsRecord(spec, shaped, id, false).or(() -> keyDiffers(spec, shaped, there));
            if (hold.isPresent()) {
                return hold.get();
            }
            fields.add(FieldJudge.onUpdate(shaped, there));
        }
        if (fields.stream().anyMatch(field -> field.outcome() == FieldOutcome.WRITTEN)) {
            return new Decision(Verdict.CHANGED, Cause.NONE, "", id, fields);
        }
        return fields.stream()
                .filter(field -> field.outcome() == FieldOutcome.HELD)
                .findFirst()
                .map(field ->
                        new Decision(Verdict.HELD, Cause.of(CauseKind.ONLY_HELD_VALUES), field.reason(), id, fields))
                .orElseGet(() -> new Decision(Verdict.UNCHANGED, Cause.NONE, "", id, fields));
    }

    private static Optional<Decision> holdsRecord(
            RouteSpec spec, ShapedField shaped, Optional<String> remoteId, boolean adding) {
        FieldRule rule = shaped.rule();
        Field field = shaped.field();
        if (rule.written() == Written.NEVER) {
            return Optional.empty();
        }
        boolean key = !spec.match().isEmpty() && spec.match().get(0).equals(field.name());
        if (shaped.shaped() instanceof Shaped.Unusable unusable) {
            boolean whole = rule.ifUnusable() == IfUnusable.HOLD_RECORD || key || adding && field.required();
            return whole
                    ? Optional.of(held(Cause.about(CauseKind.UNUSABLE, field.name()), unusable.reason(), remoteId))
                    : Optional.empty();
        }
        if (!((Shaped.Usable) shaped.shaped()).value().isEmpty()) {
            return Optional.empty();
        }
        Cause empty = Cause.about(CauseKind.EMPTY, field.name());
        String word = shaped.emptiness().map(ShapedField.Emptiness::word).orElse("empty");
        if (key) {
            return Optional.of(held(empty, field.name() + " is " + word + " and is the key field", remoteId));
        }
        if (shaped.emptiness()
                .filter(one -> one.choice() == IfEmpty.HOLD_RECORD)
                .isPresent()) {
            return Optional.of(held(empty, field.name() + " is " + word, remoteId));
        }
        return adding && field.required()
                ? Optional.of(
                        held(empty, field.name() + " is " + word + " and is required in the destination", remoteId))
                : Optional.empty();
    }

    /** Found by a further key: an empty key field there is filled, a different one holds the record. */
    private static Optional<Decision> keyDiffers(RouteSpec spec, ShapedField shaped, MatchResult.Matched there) {
        String name = shaped.field().name();
        boolean key = spec.match().get(0).equals(name);
        if (!key || !there.matchedNow() || there.matchedBy().equals(name)) {
            return Optional.empty();
        }
        Value old = there.live(name);
        Value fresh = ((Shaped.Usable) shaped.shaped()).value();
        if (old.isEmpty() || same(old, fresh)) {
            return Optional.empty();
        }
        return Optional.of(held(
                Cause.of(CauseKind.KEY_DIFFERS),
                "Found by " + there.matchedBy() + ", but its " + name + " in the destination is \"" + old.display()
                        + "\", not \"" + fresh.display() + "\"",
                Optional.of(there.remoteId())));
    }

    static boolean same(Value one, Value other) {
        return one.equals(other) || one.isEmpty() && other.isEmpty();
    }

    private static Optional<String> remoteId(MatchResult matchResult) {
        return matchResult instanceof MatchResult.Matched there ? Optional.of(there.remoteId()) : Optional.empty();
    }

    static Decision held(Cause cause, String reason, Optional<String> remoteId) {
        return verdict(Verdict.HELD, cause, reason, remoteId);
    }

    static Decision verdict(Verdict verdict, Cause cause, String reason, Optional<String> remoteId) {
        return new Decision(verdict, cause, reason, remoteId, List.of());
    }
}
