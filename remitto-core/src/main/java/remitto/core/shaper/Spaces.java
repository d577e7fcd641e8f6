package remitto.core.shaper;

import remitto.core.dataset.Row;
import remitto.core.value.Value;

/** Makes one plain space of every run of white space (Unicode), and takes it from both ends. */
public record Spaces() implements PureShaper {
    @Override
    public String title() {
        return "Single spaces";
    }

    @Override
    public Shaped apply(Value value, Row row) {
        return PureShaper.text(value, Spaces::single);
    }

    static String single(String text) {
        StringBuilder out = new StringBuilder(text.length());
        for (char c : Trim.strip(text).toCharArray()) {
            boolean space = Trim.isSpace(c);
            if (!space) {
                out.append(c);
            } else if (out.charAt(out.length() - 1) != ' ') {
                out.append(' ');
            }
        }
        return out.toString();
    }
}
