package remitto.core.shaper;

import remitto.core.dataset.Row;
import remitto.core.value.Value;

/** A shaper that is ready to run. A pure function of its arguments. */
@FunctionalInterface
public interface Step {
    /** @param row the record's other columns, for steps that look at one */
    Shaped apply(Value value, Row row);
}
