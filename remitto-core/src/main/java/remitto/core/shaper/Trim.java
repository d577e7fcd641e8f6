package remitto.core.shaper;

import remitto.core.dataset.Row;
import remitto.core.value.Value;

/** Takes white space (Unicode) from both ends. */
public record Trim() implements PureShaper {
    @Override
    public String title() {
        return "Trim";
    }

    @Override
    public Shaped apply(Value value, Row row) {
        if (value instanceof Value.Text text) {
            String stripped = strip(text.text());
            return new Shaped.Usable(stripped.length() == text.text().length() ? text : new Value.Text(stripped));
        }
        return value instanceof Value.Items ? PureShaper.text(value, Trim::strip) : new Shaped.Usable(value);
    }

    static String strip(String text) {
        int from = 0;
        int to = text.length();
        while (from < to && isSpace(text.charAt(from))) {
            from++;
        }
        while (to > from && isSpace(text.charAt(to - 1))) {
            to--;
        }
        return text.substring(from, to);
    }

    static boolean isSpace(char c) {
        return Character.isWhitespace(c) || Character.isSpaceChar(c);
    }
}
