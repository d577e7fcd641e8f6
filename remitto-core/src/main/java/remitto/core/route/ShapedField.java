package remitto.core.route;

import java.time.Instant;
import java.util.Optional;
import remitto.core.destination.Field;
import remitto.core.fieldrule.FieldConsent;
import remitto.core.fieldrule.FieldRule;
import remitto.core.fieldrule.IfEmpty;
import remitto.core.shaper.Shaped;

/**
 * What a rule makes of a row, before the destination is looked at.
 *
 * @param shaped the value as the field would hold it, or why it could not
 * @param emptiness what the rule says where there is no value, and in which word there is none; absent when there is
 * @param changedAt when the source last changed the row, where the rule asks
 * @param mark fingerprint of the column whose change lets the field be written; 0 for none
 * @param said what the person said to what the field needs consent for; absent when it needs none
 */
public record ShapedField(
        FieldRule rule,
        Field field,
        Shaped shaped,
        Optional<Emptiness> emptiness,
        Optional<Instant> changedAt,
        long mark,
        Optional<FieldConsent.Said> said) {

    /** @param word empty, blank or missing */
    public record Emptiness(String word, IfEmpty choice) {}

    /** A value that depends on nothing else. */
    public ShapedField(FieldRule rule, Field field, Shaped shaped) {
        this(
                rule,
                field,
                shaped,
                shaped instanceof Shaped.Usable usable && usable.value().isEmpty()
                        ? Optional.of(new Emptiness("empty", rule.ifEmpty()))
                        : Optional.empty(),
                Optional.empty(),
                0,
                Optional.empty());
    }
}
