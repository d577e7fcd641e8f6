package remitto.core.shaper;

import java.util.Locale;
import remitto.core.dataset.Row;
import remitto.core.value.Value;

/** Lower case by the Unicode rules that hold for every language. */
public record LowerCase() implements PureShaper {
    @Override
    public String title() {
        return "Lower case";
    }

    @Override
    public Shaped apply(Value value, Row row) {
        return PureShaper.text(value, text -> text.toLowerCase(Locale.ROOT));
    }
}
