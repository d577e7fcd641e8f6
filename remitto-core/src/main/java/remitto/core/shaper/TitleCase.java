package remitto.core.shaper;

import com.ibm.icu.lang.UCharacter;
import com.ibm.icu.text.BreakIterator;
import com.ibm.icu.util.ULocale;
import remitto.core.dataset.Row;
import remitto.core.value.Value;

/** Every word with a large first letter (Unicode title case, words by UAX 29). */
public record TitleCase() implements PureShaper {
    @Override
    public String title() {
        return "Title case";
    }

    @Override
    public Shaped apply(Value value, Row row) {
        return PureShaper.text(
                value, text -> UCharacter.toTitleCase(ULocale.ROOT, text, BreakIterator.getWordInstance(ULocale.ROOT)));
    }
}
