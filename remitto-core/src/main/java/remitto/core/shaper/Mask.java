package remitto.core.shaper;

import remitto.core.dataset.Row;
import remitto.core.value.Value;

/** Puts a dot in place of every letter and digit but the last few, so that a person still recognises the value. */
public record Mask(int keep) implements PureShaper {
    @Override
    public String title() {
        return "Masked but for the last " + keep;
    }

    @Override
    public boolean hides() {
        return true;
    }

    @Override
    public Shaped apply(Value value, Row row) {
        return PureShaper.text(value, this::mask);
    }

    private String mask(String text) {
        int shown = text.codePointCount(0, text.length()) - keep;
        StringBuilder out = new StringBuilder();
        int at = 0;
        for (int point : text.codePoints().toArray()) {
            out.appendCodePoint(at++ < shown && Character.isLetterOrDigit(point) ? '\u2022' : point);
        }
        return out.toString();
    }
}
