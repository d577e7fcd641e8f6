package remitto.core.shaper;

import com.ibm.icu.text.Transliterator;
import remitto.core.dataset.Row;
import remitto.core.value.Value;

/**
 * Any script in Latin letters, by the transforms of the Unicode CLDR that ICU carries.
 *
 * @param plain without any mark on the letters (ASCII)
 */
public record Transliterate(boolean plain) implements PureShaper {
    private static final Transliterator LATIN = Transliterator.getInstance("Any-Latin; NFC");
    private static final Transliterator PLAIN = Transliterator.getInstance("Any-Latin; Latin-ASCII");

    @Override
    public String title() {
        return plain ? "Plain Latin letters" : "Latin letters";
    }

    @Override
    public Shaped apply(Value value, Row row) {
        return PureShaper.text(value, text -> (plain ? PLAIN : LATIN).transliterate(text));
    }
}
