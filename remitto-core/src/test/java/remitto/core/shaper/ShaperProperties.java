package remitto.core.shaper;

import static org.assertj.core.api.Assertions.assertThat;

import java.text.Normalizer;
import java.util.List;
import java.util.Locale;
import net.jqwik.api.Arbitraries;
import net.jqwik.api.Arbitrary;
import net.jqwik.api.ForAll;
import net.jqwik.api.From;
import net.jqwik.api.Property;
import net.jqwik.api.Provide;
import net.jqwik.api.constraints.IntRange;
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

    /** Shaping what is shaped already changes nothing more. */
    @Property
    void mostShapersAreDoneAfterOnce(@ForAll String text, @ForAll @IntRange(max = 11) int which) {
        PureShaper shaper = IDEMPOTENT.get(which);
        Shaped first = shaper.apply(Value.text(text), TestRows.empty());
        if (first instanceof Shaped.Usable usable) {
            assertThat(shaper.apply(usable.value(), TestRows.empty()))
                    .as(shaper.title())
                    .isEqualTo(first);
        }
    }

    private static final List<PureShaper> IDEMPOTENT = List.of(
            new Trim(),
            new Spaces(),
            new UpperCase(),
            new TitleCase(),
            new UnicodeForm(Normalizer.Form.NFC),
            new UnicodeForm(Normalizer.Form.NFKD),
            new NormaliseEmail(false),
            new IsoCountry(IsoCountry.Form.ALPHA2),
            new IsoCurrency(),
            new IsoLanguage(),
            new Truncate(5),
            new Mask(2));

    @Property
    void aTidiedAddressStaysWithinWhatWasWritten(
            @ForAll @From("locals") String local, @ForAll @From("locals") String domain) {
        Shaped shaped =
                new NormaliseEmail(false).apply(Value.text(" " + local + "@" + domain + ".Example"), TestRows.empty());
        assertThat(shaped)
                .isEqualTo(new Shaped.Usable(Value.text(
                        local.toLowerCase(Locale.ROOT) + "@" + domain.toLowerCase(Locale.ROOT) + ".example")));
    }

    @Provide
    Arbitrary<String> locals() {
        return Arbitraries.strings()
                .withCharRange('a', 'z')
                .withCharRange('A', 'Z')
                .ofMinLength(1)
                .ofMaxLength(20);
    }
}
