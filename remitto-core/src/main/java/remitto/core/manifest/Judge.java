package remitto.core.manifest;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import remitto.core.destination.Field;
import remitto.core.fieldrule.FieldRule;
import remitto.core.fieldrule.IfEmpty;
import remitto.core.fieldrule.IfUnusable;
import remitto.core.fieldrule.OnDrift;
import remitto.core.fieldrule.Written;
import remitto.core.route.Mode;
import remitto.core.route.RouteSpec;
import remitto.core.shaper.Shaped;
import remitto.core.value.Value;

/** Turns a shaped record and what is known of it there into a verdict. A pure function of its arguments. */
public final class Judge {
    private Judge() {}

    /** The verdict for a record whose standing in the destination is known. */
    public static Decision judge(RouteSpec spec, ShapedRecord record, Standing standing) {
        if (record.statedNo() && spec.leavers().removes() && standing instanceof Standing.There there) {
            return there.matchedNow() ? leftOut(record, standing) : removed(there, "consent", record.leftOut());
        }
        if (!record.leftOut().isEmpty()) {
            return leftOut(record, standing);
        }
        if (standing instanceof Standing.Several several) {
            return held(
                    "two-matches",
                    several.remoteIds().size() + " records there have " + several.field() + " = " + several.value()
                            + " (" + String.join(", ", several.remoteIds()) + ")",
                    Optional.empty());
        }
        if (standing instanceof Standing.Claimed claimed) {
            return held(
                    "claimed",
                    "Record " + claimed.remoteId() + " there already belongs to " + claimed.otherKey(),
                    Optional.of(claimed.remoteId()));
        }
        if (standing instanceof Standing.Gone gone) {
            return held(
                    "deleted-there",
                    "Record " + gone.remoteId() + " was deleted there; it is not written again unasked",
                    Optional.of(gone.remoteId()));
        }
        if (standing instanceof Standing.There there) {
            return present(spec, record, there);
        }
        return spec.mode() == Mode.REMOVE
                ? verdict(Verdict.LEFT_OUT, "not-there", "Not there, so there is nothing to remove", Optional.empty())
                : add(spec, record);
    }

    private static Decision leftOut(ShapedRecord record, Standing standing) {
        return verdict(Verdict.LEFT_OUT, "basis", record.leftOut(), remoteId(standing));
    }

    private static Decision present(RouteSpec spec, ShapedRecord record, Standing.There there) {
        if (there.matchedNow() && spec.mode() != Mode.REMOVE && spec.leavesWhatWasThere()) {
            return verdict(
                    Verdict.LEFT_OUT,
                    "there-before",
                    "Was there before this route, which leaves such records as they are",
                    Optional.of(there.remoteId()));
        }
        if (spec.mode() == Mode.REMOVE) {
            return removed(there, "", "");
        }
        if (spec.mode().onceOnly()) {
            return verdict(Verdict.UNCHANGED, "", "", Optional.of(there.remoteId()));
        }
        return update(spec, record, there);
    }

    /** A record that goes, with the values that go with it. */
    static Decision removed(Standing.There there, String code, String reason) {
        List<FieldDecision> fields = there.live().entrySet().stream()
                .filter(entry -> !entry.getValue().isEmpty())
                .sorted(Map.Entry.comparingByKey())
                .map(entry ->
                        new FieldDecision(entry.getKey(), FieldOutcome.WRITTEN, entry.getValue(), Value.EMPTY, ""))
                .toList();
        return new Decision(Verdict.REMOVED, code, reason, Optional.of(there.remoteId()), fields);
    }

    private static Decision add(RouteSpec spec, ShapedRecord record) {
        if (!spec.mode().adds()) {
            return verdict(Verdict.LEFT_OUT, "not-there", "Not there, and this route only updates", Optional.empty());
        }
        List<FieldDecision> fields = new ArrayList<>();
        for (ShapedField shaped : record.fields()) {
            Optional<Decision> hold = holdsRecord(spec, shaped, Optional.empty(), true);
            if (hold.isPresent()) {
                return hold.get();
            }
            fields.add(onAdd(shaped));
        }
        return new Decision(Verdict.ADDED, "", "", Optional.empty(), fields);
    }

    private static FieldDecision onAdd(ShapedField shaped) {
        String name = shaped.field().name();
        if (shaped.shaped() instanceof Shaped.Unusable unusable) {
            return unusable(shaped, unusable, Value.MISSING);
        }
        Value fresh = ((Shaped.Usable) shaped.shaped()).value();
        if (shaped.rule().written() == Written.NEVER) {
            return new FieldDecision(name, FieldOutcome.KEPT, Value.MISSING, fresh, "never written");
        }
        if (fresh.isEmpty()) {
            return new FieldDecision(name, FieldOutcome.KEPT, Value.MISSING, fresh, "empty, left as it is");
        }
        return new FieldDecision(name, FieldOutcome.WRITTEN, Value.MISSING, fresh, "");
    }

    private static Decision update(RouteSpec spec, ShapedRecord record, Standing.There there) {
        if (!spec.mode().updates()) {
            return verdict(
                    Verdict.LEFT_OUT,
                    "already-there",
                    "Already there, and this route only adds",
                    Optional.of(there.remoteId()));
        }
        Optional<String> id = Optional.of(there.remoteId());
        List<FieldDecision> fields = new ArrayList<>();
        for (ShapedField shaped : record.fields()) {
            Optional<Decision> hold = holdsRecord(spec, shaped, id, false).or(() -> keyDiffers(spec, shaped, there));
            if (hold.isPresent()) {
                return hold.get();
            }
            fields.add(onUpdate(shaped, there));
        }
        if (fields.stream().anyMatch(field -> field.outcome() == FieldOutcome.WRITTEN)) {
            return new Decision(Verdict.CHANGED, "", "", id, fields);
        }
        return fields.stream()
                .filter(field -> field.outcome() == FieldOutcome.HELD)
                .findFirst()
                .map(field -> new Decision(Verdict.HELD, "value-held", field.reason(), id, fields))
                .orElseGet(() -> new Decision(Verdict.UNCHANGED, "", "", id, fields));
    }

    private static FieldDecision onUpdate(ShapedField shaped, Standing.There there) {
        FieldRule rule = shaped.rule();
        String name = shaped.field().name();
        Value old = there.live(name);
        if (shaped.shaped() instanceof Shaped.Unusable unusable) {
            return unusable(shaped, unusable, old);
        }
        Value fresh = ((Shaped.Usable) shaped.shaped()).value();
        if (rule.written() == Written.NEVER) {
            return new FieldDecision(name, FieldOutcome.KEPT, old, fresh, "never written");
        }
        if (fresh.isEmpty() && rule.ifEmpty() != IfEmpty.CLEAR) {
            return new FieldDecision(name, FieldOutcome.KEPT, old, fresh, "empty, left as it is");
        }
        if (same(fresh, old)) {
            return new FieldDecision(name, FieldOutcome.SAME, old, fresh, "");
        }
        if (there.undone().containsKey(name) && same(there.undone().get(name), fresh)) {
            return new FieldDecision(
                    name,
                    FieldOutcome.KEPT,
                    old,
                    fresh,
                    "not written again: undone, or theirs was kept; until its rule or source value changes");
        }
        if (rule.written() == Written.WHEN_CREATING) {
            return new FieldDecision(name, FieldOutcome.KEPT, old, fresh, "written only when creating");
        }
        if (rule.written() == Written.ONLY_IF_EMPTY_THERE && !old.isEmpty()) {
            return new FieldDecision(name, FieldOutcome.KEPT, old, fresh, "not empty there");
        }
        boolean edited = there.known().containsKey(name) && !same(there.known().get(name), old);
        if (edited && rule.onDrift() == OnDrift.KEEP_THEIRS) {
            return new FieldDecision(name, FieldOutcome.KEPT, old, fresh, "edited there, theirs is kept");
        }
        if (edited && rule.onDrift() == OnDrift.HOLD_VALUE) {
            return new FieldDecision(
                    name, FieldOutcome.HELD, old, fresh, name + ": edited there to \"" + old.display() + "\"");
        }
        return new FieldDecision(name, FieldOutcome.WRITTEN, old, fresh, edited ? "overwrites an edit made there" : "");
    }

    private static FieldDecision unusable(ShapedField shaped, Shaped.Unusable unusable, Value old) {
        String name = shaped.field().name();
        return shaped.rule().written() == Written.NEVER || shaped.rule().ifUnusable() == IfUnusable.LEAVE
                ? new FieldDecision(name, FieldOutcome.KEPT, old, Value.MISSING, "left as it is: " + unusable.reason())
                : new FieldDecision(name, FieldOutcome.HELD, old, Value.MISSING, unusable.reason());
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
                    ? Optional.of(held("unusable:" + field.name(), unusable.reason(), remoteId))
                    : Optional.empty();
        }
        if (!((Shaped.Usable) shaped.shaped()).value().isEmpty()) {
            return Optional.empty();
        }
        if (key) {
            return Optional.of(
                    held("empty:" + field.name(), field.name() + " is empty and is the key field", remoteId));
        }
        if (rule.ifEmpty() == IfEmpty.HOLD_RECORD) {
            return Optional.of(held("empty:" + field.name(), field.name() + " is empty", remoteId));
        }
        if (adding && field.required()) {
            return Optional.of(held("empty:" + field.name(), field.name() + " is empty and required there", remoteId));
        }
        return Optional.empty();
    }

    /** Found by a further key: an empty key field there is filled, a different one holds the record. */
    private static Optional<Decision> keyDiffers(RouteSpec spec, ShapedField shaped, Standing.There there) {
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
                "key-differs",
                "Found by " + there.matchedBy() + ", but its " + name + " there is \"" + old.display() + "\", not \""
                        + fresh.display() + "\"",
                Optional.of(there.remoteId())));
    }

    static boolean same(Value one, Value other) {
        return one.equals(other) || one.isEmpty() && other.isEmpty();
    }

    private static Optional<String> remoteId(Standing standing) {
        return standing instanceof Standing.There there ? Optional.of(there.remoteId()) : Optional.empty();
    }

    static Decision held(String code, String reason, Optional<String> remoteId) {
        return verdict(Verdict.HELD, code, reason, remoteId);
    }

    static Decision verdict(Verdict verdict, String code, String reason, Optional<String> remoteId) {
        return new Decision(verdict, code, reason, remoteId, List.of());
    }
}
