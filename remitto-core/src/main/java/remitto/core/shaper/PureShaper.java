package remitto.core.shaper;

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
                TidyEmail,
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
                Mask,
                Sha256 {
    @Override
    default Step ready(Stores stores) {
        return this;
    }

    /** The value as text that was changed; what is empty or a list of texts item by item. */
    static Shaped text(Value value, java.util.function.UnaryOperator<String> change) {
        if (value.isEmpty()) {
            return new Shaped.Usable(value);
        }
        if (value instanceof Value.Items items) {
            return new Shaped.Usable(new Value.Items(items.items().stream()
                    .map(item -> (Value) new Value.Text(change.apply(item.display())))
                    .toList()));
        }
        return new Shaped.Usable(new Value.Text(change.apply(value.display())));
    }
}
