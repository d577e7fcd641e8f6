package remitto.core.shaper;

import static org.assertj.core.api.Assertions.assertThat;

import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import remitto.core.TestRows;
import remitto.core.value.Value;

class ShaperProperties {
    private static Value once(PureShaper shaper, String text) {
        return ((Shaped.Usable) shaper.apply(Value.text(text), TestRows.empty())).value();
    }

    @Property
    void trimmingTwiceIsTrimmingOnce(@ForAll String text) {
        Value trimmed = once(new Trim(), text);
        assertThat(once(new Trim(), trimmed.display())).isEqualTo(trimmed);
        assertThat(text).contains(trimmed.display());
    }

    @Property
    void lowerCaseTwiceIsLowerCaseOnce(@ForAll String text) {
        Value lower = once(new LowerCase(), text);
        assertThat(once(new LowerCase(), lower.display())).isEqualTo(lower);
    }

    @Property
    void aPhoneNumberIsEitherE164OrUnusableNeverChangedIntoSomethingElse(@ForAll String text) {
        Shaped shaped = new E164("NO", "").apply(Value.text(text), TestRows.empty());
        if (shaped instanceof Shaped.Usable usable && !usable.value().isEmpty()) {
            assertThat(usable.value().display()).matches("\\+[1-9]\\d{1,14}");
            assertThat(new E164("NO", "").apply(usable.value(), TestRows.empty()))
                    .isEqualTo(shaped);
        }
    }
}
