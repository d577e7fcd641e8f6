package remitto.core.manifest;

import remitto.core.destination.Field;
import remitto.core.fieldrule.FieldRule;
import remitto.core.shaper.Shaped;

/**
 * What a rule makes of a row, before the destination is looked at.
 *
 * @param shaped the value as the field would hold it, or why it could not
 */
public record ShapedField(FieldRule rule, Field field, Shaped shaped) {}
