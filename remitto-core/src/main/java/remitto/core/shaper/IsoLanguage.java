package remitto.core.shaper;

import java.util.Locale;
import java.util.MissingResourceException;
import java.util.Optional;
import remitto.core.dataset.Row;
import remitto.core.value.Value;

/**
 * A language, by its ISO 639 code, a language tag (BCP 47) or its name in many languages, as its code of two letters,
 * or of three where it has no other.
 */
public record IsoLanguage() implements PureShaper {
    private static final IsoNames NAMES = new IsoNames((language, sink) -> {
        for (String code : Locale.getISOLanguages()) {
            Locale one = Locale.forLanguageTag(code);
            sink.accept(one.getDisplayLanguage(language), one.getLanguage());
        }
    });

    static {
        for (String code : Locale.getISOLanguages()) {
            Locale one = Locale.forLanguageTag(code);
            NAMES.also(code, one.getLanguage());
            NAMES.also(one.getDisplayLanguage(one), one.getLanguage());
            try {
                NAMES.also(one.getISO3Language(), one.getLanguage());
            } catch (MissingResourceException e) {
                // has no code of three letters
            }
        }
    }

    @Override
    public String title() {
        return "Language code";
    }

    @Override
    public Shaped apply(Value value, Row row) {
        if (value.isEmpty()) {
            return new Shaped.Usable(value);
        }
        String text = Trim.strip(value.display());
        Optional<String> code = NAMES.find(text).or(() -> NAMES.find(text.split("[-_]", 2)[0]));
        return code.<Shaped>map(found -> new Shaped.Usable(new Value.Text(found)))
                .orElseGet(() ->
                        new Shaped.Unusable("\"" + value.display() + "\" is not a language code or name of ISO 639"));
    }
}
