package remitto.core.fieldrule;

import java.util.List;
import java.util.Optional;
import remitto.core.shaper.Shaper;

/**
 * The rule for one destination field.
 *
 * @param shapers applied in order
 * @param ifEmpty what happens when there is nothing: no value at all
 * @param defaultText used where a choice is DEFAULT; ignored otherwise
 * @param ifBlank what happens to a text of nothing but spaces, where that is not as if it were empty
 * @param ifMissing what happens when nothing was found, or the column is not there, where that is not as if it were
 *     empty
 * @param newer how the newer value is told; needed when {@code written} is IF_NEWER
 * @param timing what puts writing off
 * @param consent what the person must have agreed to for this field
 */
public record FieldRule(
        String field,
        Receives receives,
        List<Shaper> shapers,
        Written written,
        IfEmpty ifEmpty,
        String defaultText,
        IfUnusable ifUnusable,
        OnDrift onDrift,
        Optional<IfEmpty> ifBlank,
        Optional<IfEmpty> ifMissing,
        Optional<Newer> newer,
        Optional<Timing> timing,
        Optional<FieldConsent> consent) {
    public FieldRule {
        shapers = List.copyOf(shapers);
    }

    /** A rule that always writes, leaves the field when empty and holds only a bad value. */
    public static FieldRule of(String field, Receives receives, Shaper... shapers) {
        return new FieldRule(
                field,
                receives,
                List.of(shapers),
                Written.ALWAYS,
                IfEmpty.LEAVE,
                "",
                IfUnusable.HOLD_VALUE,
                OnDrift.OVERWRITE,
                Optional.empty(),
                Optional.empty(),
                Optional.empty(),
                Optional.empty(),
                Optional.empty());
    }

    public FieldRule written(Written when) {
        return new FieldRule(
                field,
                receives,
                shapers,
                when,
                ifEmpty,
                defaultText,
                ifUnusable,
                onDrift,
                ifBlank,
                ifMissing,
                newer,
                timing,
                consent);
    }

    public FieldRule ifEmpty(IfEmpty choice) {
        return new FieldRule(
                field,
                receives,
                shapers,
                written,
                choice,
                defaultText,
                ifUnusable,
                onDrift,
                ifBlank,
                ifMissing,
                newer,
                timing,
                consent);
    }

    public FieldRule ifBlank(IfEmpty choice) {
        return new FieldRule(
                field,
                receives,
                shapers,
                written,
                ifEmpty,
                defaultText,
                ifUnusable,
                onDrift,
                Optional.of(choice),
                ifMissing,
                newer,
                timing,
                consent);
    }

    public FieldRule ifMissing(IfEmpty choice) {
        return new FieldRule(
                field,
                receives,
                shapers,
                written,
                ifEmpty,
                defaultText,
                ifUnusable,
                onDrift,
                ifBlank,
                Optional.of(choice),
                newer,
                timing,
                consent);
    }

    public FieldRule orDefault(String text) {
        return new FieldRule(
                field,
                receives,
                shapers,
                written,
                IfEmpty.DEFAULT,
                text,
                ifUnusable,
                onDrift,
                ifBlank,
                ifMissing,
                newer,
                timing,
                consent);
    }

    public FieldRule ifUnusable(IfUnusable choice) {
        return new FieldRule(
                field,
                receives,
                shapers,
                written,
                ifEmpty,
                defaultText,
                choice,
                onDrift,
                ifBlank,
                ifMissing,
                newer,
                timing,
                consent);
    }

    public FieldRule onDrift(OnDrift choice) {
        return new FieldRule(
                field,
                receives,
                shapers,
                written,
                ifEmpty,
                defaultText,
                ifUnusable,
                choice,
                ifBlank,
                ifMissing,
                newer,
                timing,
                consent);
    }

    /** Written against what others wrote only if it is newer. */
    public FieldRule ifNewer(Newer how) {
        return new FieldRule(
                field,
                receives,
                shapers,
                Written.IF_NEWER,
                ifEmpty,
                defaultText,
                ifUnusable,
                onDrift,
                ifBlank,
                ifMissing,
                Optional.of(how),
                timing,
                consent);
    }

    public FieldRule timing(Timing when) {
        return new FieldRule(
                field,
                receives,
                shapers,
                written,
                ifEmpty,
                defaultText,
                ifUnusable,
                onDrift,
                ifBlank,
                ifMissing,
                newer,
                Optional.of(when),
                consent);
    }

    public FieldRule consent(FieldConsent needed) {
        return new FieldRule(
                field,
                receives,
                shapers,
                written,
                ifEmpty,
                defaultText,
                ifUnusable,
                onDrift,
                ifBlank,
                ifMissing,
                newer,
                timing,
                Optional.of(needed));
    }

    /** Who decides on an object that both sides edit, as far as the choices of this rule amount to one of them. */
    public Direction direction() {
        return Direction.of(written, onDrift);
    }
}
