package remitto.core.value;

import java.math.BigDecimal;
import java.time.Instant;
import java.time.LocalDate;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.stream.Collectors;

/**
 * One typed value on its way from a dataset column to a destination field. Missing (no such column or
 * field), empty (present, no value) and blank (only spaces) are three different things.
 */
public sealed interface Value {

    /** The column or field does not exist in what was read. */
    record Missing() implements Value {
        @Override
        public String display() {
            return "";
        }
    }

    /** Present, holding nothing (SQL null, JSON null). */
    record Empty() implements Value {
        @Override
        public String display() {
            return "";
        }
    }

    /** Text, as read; may be blank. */
    record Text(String text) implements Value {
        @Override
        public boolean isEmpty() {
            return text.isBlank();
        }

        @Override
        public String display() {
            return text;
        }
    }

    /** An exact decimal within {@link Numbers#bounded}. Equal numbers are equal whatever their scale was. */
    record Decimal(BigDecimal number) implements Value {
        public Decimal {
            number = number.signum() == 0
                    ? BigDecimal.ZERO
                    : Numbers.bounded(number).stripTrailingZeros();
            number = number.scale() < 0 ? number.setScale(0) : number;
        }

        @Override
        public String display() {
            return number.toPlainString();
        }
    }

    record Truth(boolean truth) implements Value {
        @Override
        public String display() {
            return truth ? "true" : "false";
        }
    }

    /** A calendar date without a zone. */
    record Day(LocalDate day) implements Value {
        @Override
        public String display() {
            return day.toString();
        }
    }

    /** A point in time (UTC). */
    record Moment(Instant instant) implements Value {
        @Override
        public String display() {
            return instant.toString();
        }
    }

    record Items(List<Value> items) implements Value {
        public Items {
            items = List.copyOf(items);
        }

        @Override
        public boolean isEmpty() {
            return items.isEmpty();
        }

        @Override
        public String display() {
            return items.stream().map(Value::display).collect(Collectors.joining(", "));
        }
    }

    /** Named values that belong together, such as one of several rows. By name: JSON objects have no order (RFC 8259). */
    record Parts(Map<String, Value> parts) implements Value {
        public Parts {
            parts = Collections.unmodifiableMap(new TreeMap<>(parts));
        }

        @Override
        public boolean isEmpty() {
            return parts.values().stream().allMatch(Value::isEmpty);
        }

        @Override
        public String display() {
            return parts.values().stream()
                    .filter(one -> !one.isEmpty())
                    .map(Value::display)
                    .collect(Collectors.joining(" / "));
        }
    }

    Value MISSING = new Missing();
    Value EMPTY = new Empty();

    static Value text(String text) {
        return new Text(text);
    }

    static Value number(long number) {
        return new Decimal(BigDecimal.valueOf(number));
    }

    static Value number(BigDecimal number) {
        return new Decimal(number);
    }

    /** True when there is nothing worth sending: missing, empty, blank text or a list of nothing. */
    default boolean isEmpty() {
        return this instanceof Missing || this instanceof Empty;
    }

    /** The value as a person reads it; the empty string when there is none. */
    String display();
}
