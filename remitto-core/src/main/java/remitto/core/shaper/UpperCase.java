package remitto.core.shaper;

import java.util.Locale;
import remitto.core.dataset.Row;
import remitto.core.value.Value;

/** Upper case by the Unicode rules that hold for every language. */
public record UpperCase() implements PureShaper {
    @Override
    public String title() {
        return "Upper case";
    }

    @Override
    public Shaped apply(Value value, Row row) {
        return PureShaper.text(value, text -> text.toUpperCase(Locale.ROOT));
    }
}
