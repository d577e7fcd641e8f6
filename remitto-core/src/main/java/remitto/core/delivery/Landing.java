package remitto.core.delivery;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Function;
import remitto.core.manifest.FieldDecision;
import remitto.core.manifest.FieldOutcome;
import remitto.core.manifest.Verdict;
import remitto.core.value.Value;

/**
 * What reading tells of a record that a line is about. The new values there mean that the line took effect, the old ones that it did
 * not, any others that somebody else wrote.
 */
public sealed interface Landing {
    /**
     * It took effect.
     *
     * @param words for its outcome
     */
    record Took(String words) implements Landing {}

    /** It did not, and may go again. */
    record DidNot() implements Landing {}

    /** The ground moved: it does not go, and is judged again. */
    record MovedOn(String why) implements Landing {}

    /**
     * After a write that got no answer.
     *
     * @param there the fields of the record, by name; empty when there is none
     */
    static Landing ofWrite(Verdict verdict, List<FieldDecision> fields, Optional<Map<String, Value>> there) {
        if (verdict == Verdict.REMOVED) {
            return there.isEmpty() ? new Took("missing when read back") : new DidNot();
        }
        if (there.isEmpty()) {
            return verdict == Verdict.ADDED ? new DidNot() : new MovedOn("The record is no longer in the destination");
        }
        if (holds(there.get(), fields, FieldDecision::fresh)) {
            return new Took("found written when read back");
        }
        return verdict == Verdict.CHANGED && holds(there.get(), fields, FieldDecision::old)
                ? new DidNot()
                : new MovedOn("Read back after an unknown outcome: the destination now holds other values");
    }

    /**
     * Before a write whose old values were read some time ago.
     *
     * @return empty when it may go
     */
    static Optional<MovedOn> ofGround(Verdict verdict, List<FieldDecision> fields, Optional<Map<String, Value>> there) {
        if (there.isEmpty()) {
            return Optional.of(new MovedOn("The record is no longer in the destination"));
        }
        return verdict == Verdict.CHANGED
                ? difference(there.get(), fields).map(words -> new MovedOn("Moved on: " + words))
                : Optional.empty();
    }

    private static boolean holds(
            Map<String, Value> there, List<FieldDecision> fields, Function<FieldDecision, Value> wanted) {
        return fields.stream()
                .filter(field -> field.outcome() == FieldOutcome.WRITTEN)
                .allMatch(field -> same(there, field, wanted.apply(field)));
    }

    private static Optional<String> difference(Map<String, Value> there, List<FieldDecision> fields) {
        return fields.stream()
                .filter(field -> field.outcome() == FieldOutcome.WRITTEN && !same(there, field, field.old()))
                .findFirst()
                .map(field -> field.field() + " in the destination is now \""
                        + there.getOrDefault(field.field(), Value.EMPTY).display() + "\", not \""
                        + field.old().display() + "\"");
    }

    private static boolean same(Map<String, Value> there, FieldDecision field, Value wanted) {
        Value now = there.getOrDefault(field.field(), Value.EMPTY);
        return now.equals(wanted) || now.isEmpty() && wanted.isEmpty();
    }
}
