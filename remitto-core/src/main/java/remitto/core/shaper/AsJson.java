package remitto.core.shaper;

import java.util.stream.Collectors;
import remitto.core.dataset.Row;
import remitto.core.value.Value;

/** The value as JSON text (RFC 8259): lists as arrays, rows as objects, numbers and truth values as they are, all else as a string. */
public record AsJson() implements PureShaper {
    private static final char FIRST_PRINTABLE = ' ';

    @Override
    public String title() {
        return "JSON";
    }

    @Override
    public Shaped apply(Value value, Row row) {
        return new Shaped.Usable(value.isEmpty() ? value : new Value.Text(json(value)));
    }

    /** One value, in one line. */
    public static String json(Value value) {
        if (value instanceof Value.Items items) {
            return items.items().stream().map(AsJson::json).collect(Collectors.joining(",", "[", "]"));
        }
        if (value instanceof Value.Parts row) {
            return row.parts().entrySet().stream()
                    .map(part -> quoted(part.getKey()) + ":" + json(part.getValue()))
                    .collect(Collectors.joining(",", "{", "}"));
        }
        if (value instanceof Value.Missing || value instanceof Value.Empty) {
            return "null";
        }
        return value instanceof Value.Decimal || value instanceof Value.Truth
                ? value.display()
                : quoted(value.display());
    }

    private static String quoted(String text) {
        StringBuilder out = new StringBuilder("\"");
        for (char c : text.toCharArray()) {
            if (c == '"' || c == '\\') {
                out.append('\\').append(c);
            } else if (c < FIRST_PRINTABLE) {
                out.append(String.format("\\u%04x", (int) c));
            } else {
                out.append(c);
            }
        }
        return out.append('"').toString();
    }
}
