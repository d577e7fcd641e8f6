package remitto.core.route;

import remitto.core.value.Value;

/** Listens to a record on its way through the rules. The bulk run passes one that ignores everything. */
@FunctionalInterface
public interface Trace {
    Trace NONE = (field, step, detail, value) -> {};

    /**
     * @param field the destination field whose rule is at work
     * @param step what was done
     * @param detail a few words more; may be blank
     * @param value the value after the step
     */
    void step(String field, String step, String detail, Value value);
}
