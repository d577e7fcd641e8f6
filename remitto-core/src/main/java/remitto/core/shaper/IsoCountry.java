package remitto.core.shaper;

import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import remitto.core.dataset.Row;
import remitto.core.value.Value;

/** A country, by its code of two or three letters or its name in many languages, as an ISO 3166-1 code. */
public record IsoCountry(Form to) implements PureShaper {
    /** How a country is written. */
    public enum Form {
        ALPHA2,
        ALPHA3,
        ENGLISH_NAME
    }

    private static final Map<String, String> BY_ALPHA3 = new TreeMap<>();
    private static final IsoNames NAMES = new IsoNames((language, sink) -> {
        for (String code : Locale.getISOCountries()) {
            sink.accept(new Locale.Builder().setRegion(code).build().getDisplayCountry(language), code);
        }
    });

    static {
        for (String code : Locale.getISOCountries()) {
            BY_ALPHA3.put(new Locale.Builder().setRegion(code).build().getISO3Country(), code);
        }
        // Common practice; the reserved code and the everyday names.
        NAMES.also("UK", "GB");
        NAMES.also("Great Britain", "GB");
        NAMES.also("England", "GB");
        NAMES.also("Scotland", "GB");
        NAMES.also("USA", "US");
        NAMES.also("Holland", "NL");
    }

    @Override
    public String title() {
        return switch (to) {
            case ALPHA2 -> "Country as two letters";
            case ALPHA3 -> "Country as three letters";
            case ENGLISH_NAME -> "Country by its English name";
        };
    }

    @Override
    public Shaped apply(Value value, Row row) {
        if (value.isEmpty()) {
            return new Shaped.Usable(value);
        }
        return code(value.display())
                .<Shaped>map(code -> new Shaped.Usable(new Value.Text(written(code))))
                .orElseGet(() ->
                        new Shaped.Unusable("\"" + value.display() + "\" is not a country code or name of ISO 3166-1"));
    }

    private String written(String code) {
        Locale country = new Locale.Builder().setRegion(code).build();
        return switch (to) {
            case ALPHA2 -> code;
            case ALPHA3 -> country.getISO3Country();
            case ENGLISH_NAME -> country.getDisplayCountry(Locale.ENGLISH);
        };
    }

    /** The code of two letters. */
    static Optional<String> code(String spelled) {
        String text = Trim.strip(spelled).toUpperCase(Locale.ROOT);
        if (text.length() == 2
                && Locale.getISOCountries(Locale.IsoCountryCode.PART1_ALPHA2).contains(text)) {
            return Optional.of(text);
        }
        return Optional.ofNullable(BY_ALPHA3.get(text)).or(() -> NAMES.find(spelled));
    }
}
