package remitto.core.shaper;

import remitto.core.value.Value;

/** What became of a value: usable (perhaps empty), or unusable with the reason. Unusable is not empty. */
public sealed interface Shaped {
    record Usable(Value value) implements Shaped {}

    /** @param reason a sentence a person can act on, naming the value */
    record Unusable(String reason) implements Shaped {}
}
