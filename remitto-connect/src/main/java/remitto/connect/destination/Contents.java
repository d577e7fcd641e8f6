package remitto.connect.destination;

import java.util.Map;
import java.util.Optional;
import remitto.core.value.Value;

/** What a record to be written gets. */
public interface Contents {
    /** Values by field; empty clears it. */
    Map<String, Value> values();

    /** The value of one field, without the others; empty when the field is not written. */
    Optional<Value> value(String field);

    /** The same values as one JSON object (RFC 8259), if they were kept as one: spelling them again would give the same. */
    Optional<String> json();

    static Contents of(Map<String, Value> values) {
        return new OfValues(values);
    }

    /** Values at hand. */
    record OfValues(Map<String, Value> values) implements Contents {
        @Override
        public Optional<Value> value(String field) {
            return Optional.ofNullable(values.get(field));
        }

        @Override
        public Optional<String> json() {
            return Optional.empty();
        }
    }
}
