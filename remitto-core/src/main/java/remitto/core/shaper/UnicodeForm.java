package remitto.core.shaper;

import java.text.Normalizer;
import remitto.core.dataset.Row;
import remitto.core.value.Value;

/** A Unicode normalisation form (UAX 15): NFC, NFD, NFKC or NFKD. */
public record UnicodeForm(Normalizer.Form form) implements PureShaper {
    @Override
    public String title() {
        return "Unicode " + form;
    }

    @Override
    public Shaped apply(Value value, Row row) {
        return PureShaper.text(value, text -> Normalizer.normalize(text, form));
    }
}
