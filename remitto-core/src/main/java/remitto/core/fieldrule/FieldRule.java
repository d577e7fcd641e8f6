package remitto.core.fieldrule;

import java.util.List;
import remitto.core.shaper.Shaper;

/**
 * The rule for one destination field.
 *
 * @param shapers applied in order
 * @param defaultText used when {@code ifEmpty} is DEFAULT; ignored otherwise
 */
public record FieldRule(
        String field,
        Receives receives,
        List<Shaper> shapers,
        Written written,
        IfEmpty ifEmpty,
        String defaultText,
        IfUnusable ifUnusable,
        OnDrift onDrift) {
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
                OnDrift.OVERWRITE);
    }

    public FieldRule written(Written when) {
        return new FieldRule(field, receives, shapers, when, ifEmpty, defaultText, ifUnusable, onDrift);
    }

    public FieldRule ifEmpty(IfEmpty choice) {
        return new FieldRule(field, receives, shapers, written, choice, defaultText, ifUnusable, onDrift);
    }

    public FieldRule orDefault(String text) {
        return new FieldRule(field, receives, shapers, written, IfEmpty.DEFAULT, text, ifUnusable, onDrift);
    }

    public FieldRule ifUnusable(IfUnusable choice) {
        return new FieldRule(field, receives, shapers, written, ifEmpty, defaultText, choice, onDrift);
    }

    public FieldRule onDrift(OnDrift choice) {
        return new FieldRule(field, receives, shapers, written, ifEmpty, defaultText, ifUnusable, choice);
    }
}
