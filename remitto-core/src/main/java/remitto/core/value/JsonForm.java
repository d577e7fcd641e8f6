package remitto.core.value;

import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/**
 * The JSON form of values: text, days (ISO 8601) and moments (ISO 8601, UTC) as strings, numbers as numbers,
 * lists as arrays, named values as objects, empty as null. Works on the plain object tree any JSON library reads and writes.
 */
public final class JsonForm {

    private JsonForm() {}

    /** The plain tree for a value; empty for JSON null. */
    public static Optional<Object> write(Value value) {
        if (value instanceof Value.Decimal decimal) {
            return Optional.of(decimal.number());
        }
        if (value instanceof Value.Truth truth) {
            return Optional.of(truth.truth());
        }
        if (value instanceof Value.Items items) {
            List<Object> out = new ArrayList<>();
            items.items().forEach(item -> write(item).ifPresent(out::add));
            return Optional.of(out);
        }
        if (value instanceof Value.Parts parts) {
            Map<String, Object> out = new LinkedHashMap<>();
            parts.parts().forEach((name, part) -> out.put(name, write(part).orElse(null)));
            return Optional.of(out);
        }
        if (value instanceof Value.Missing || value instanceof Value.Empty) {
            return Optional.empty();
        }
        return Optional.of(value.display());
    }

    /** Reads a plain tree without knowing the type it is meant to be: strings stay text. */
    public static Value read(Optional<?> tree) {
        return tree.map(JsonForm::readPresent).orElse(Value.EMPTY);
    }

    /** A number beyond all bounds stays the text that it was. */
    private static Value number(BigDecimal number) {
        try {
            return new Value.Decimal(number);
        } catch (NumberFormatException e) {
            return new Value.Text(number.toString());
        }
    }

    private static Value readPresent(Object tree) {
        if (tree instanceof Boolean truth) {
            return new Value.Truth(truth);
        }
        if (tree instanceof BigDecimal number) {
            return number(number);
        }
        if (tree instanceof Number number) {
            return number(new BigDecimal(number.toString()));
        }
        if (tree instanceof List<?> list) {
            return new Value.Items(
                    list.stream().map(item -> read(Optional.ofNullable(item))).toList());
        }
        if (tree instanceof Map<?, ?> object) {
            Map<String, Value> parts = new LinkedHashMap<>();
            object.forEach((name, part) -> parts.put(String.valueOf(name), read(Optional.ofNullable(part))));
            return new Value.Parts(parts);
        }
        return new Value.Text(tree.toString());
    }
}
