package remitto.core.shaper;

import java.text.Normalizer;
import java.util.HashMap;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.function.BiConsumer;

/**
 * Finds an ISO code by the code itself or by a name, in the languages the platform's CLDR data knows among those
 * listed. Upper and lower case and marks on letters make no difference.
 */
final class IsoNames {
    private static final String[] LANGUAGES = {
        "en", "nb", "nn", "sv", "da", "fi", "is", "de", "nl", "fr", "es", "pt", "it", "pl", "et", "lv", "lt", "el",
        "ru", "uk"
    };

    private final Map<String, String> codes = new HashMap<>();

    /** @param names hands over each code with its name in a language */
    IsoNames(java.util.function.BiConsumer<Locale, BiConsumer<String, String>> names) {
        for (String language : LANGUAGES) {
            names.accept(Locale.forLanguageTag(language), (name, code) -> codes.putIfAbsent(plain(name), code));
        }
    }

    void also(String name, String code) {
        codes.put(plain(name), code);
    }

    Optional<String> find(String text) {
        return Optional.ofNullable(codes.get(plain(text)));
    }

    private static String plain(String text) {
        return Normalizer.normalize(Spaces.single(text), Normalizer.Form.NFKD)
                .replaceAll("\\p{M}", "")
                .toLowerCase(Locale.ROOT);
    }
}
