package remitto.core.manifest;

import remitto.core.value.Value;

/**
 * The outcome for one field.
 *
 * @param old the value there before; missing when the record is new or the value was not read
 * @param fresh the value the rule gives; missing when it gives none
 * @param reason why, in words; blank when the outcome speaks for itself
 */
public record FieldDecision(String field, FieldOutcome outcome, Value old, Value fresh, String reason) {}
