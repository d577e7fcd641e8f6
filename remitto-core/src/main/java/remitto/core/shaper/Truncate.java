package remitto.core.shaper;

import com.ibm.icu.text.BreakIterator;
import com.ibm.icu.util.ULocale;
import remitto.core.dataset.Row;
import remitto.core.value.Value;

/**
 * At most so many characters (Unicode code points, as destinations count), cut between what a reader sees as
 * characters (UAX 29).
 */
public record Truncate(int length) implements PureShaper {
    @Override
    public String title() {
        return "At most " + length + " characters";
    }

    @Override
    public Shaped apply(Value value, Row row) {
        return PureShaper.text(value, this::cut);
    }

    private String cut(String text) {
        if (text.codePointCount(0, text.length()) <= length) {
            return text;
        }
        int most = text.offsetByCodePoints(0, length);
        BreakIterator characters = BreakIterator.getCharacterInstance(ULocale.ROOT);
        characters.setText(text);
        return text.substring(0, characters.isBoundary(most) ? most : characters.preceding(most));
    }
}
