package remitto.core.shaper;

import java.util.LinkedHashMap;
import java.util.Map;
import remitto.core.value.Value;

/** A shaper that needs nothing besides the value and the row. */
public sealed interface PureShaper extends Shaper, Step
        permits Trim,
                Spaces,
                LowerCase,
                UpperCase,
                TitleCase,
                UnicodeForm,
                Transliterate,
                E164,
                NormaliseEmail,
                IsoCountry,
                IsoCurrency,
                IsoLanguage,
                ReadNumber,
                Rounded,
                ToDate,
                ToMoment,
                SpellTime,
                YesNo,
                Truncate,
                SplitList,
                JoinList,
                AsJson,
                SpellRows,
                Mask,
                Sha256 {
    @Override
    default Step ready(Stores stores) {
        return this;
    }

    /** The value as text that was changed; lists item by item, rows part by part. */
    static Shaped text(Value value, java.util.function.UnaryOperator<String> change) {
        if (value.isEmpty()) {
            return new Shaped.Usable(value);
        }
        if (value instanceof Value.Items items) {
            return new Shaped.Usable(new Value.Items(
                    items.items().stream().map(item -> changed(item, change)).toList()));
        }
        return new Shaped.Usable(changed(value, change));
    }

    private static Value changed(Value value, java.util.function.UnaryOperator<String> change) {
        if (!(value instanceof Value.Parts row)) {
            return new Value.Text(change.apply(value.display()));
        }
        Map<String, Value> parts = new LinkedHashMap<>();
        row.parts().forEach((name, part) -> parts.put(name, part.isEmpty() ? part : changed(part, change)));
        return new Value.Parts(parts);
    }
}
