package remitto.core.shaper;

import java.util.Currency;
import java.util.Locale;
import java.util.Optional;
import remitto.core.dataset.Row;
import remitto.core.value.Value;

/** A currency, by its code or its name in many languages, as an ISO 4217 code of three letters. */
public record IsoCurrency() implements PureShaper {
    private static final IsoNames NAMES = new IsoNames((language, sink) -> Currency.getAvailableCurrencies()
            .forEach(currency -> sink.accept(currency.getDisplayName(language), currency.getCurrencyCode())));

    static {
        // Signs that stand for one currency only; a dollar or krone sign does not.
        NAMES.also("€", "EUR");
        NAMES.also("£", "GBP");
        NAMES.also("zł", "PLN");
        NAMES.also("₹", "INR");
    }

    @Override
    public String title() {
        return "Currency code";
    }

    @Override
    public Shaped apply(Value value, Row row) {
        if (value.isEmpty()) {
            return new Shaped.Usable(value);
        }
        return code(value.display())
                .<Shaped>map(code -> new Shaped.Usable(new Value.Text(code)))
                .orElseGet(() ->
                        new Shaped.Unusable("\"" + value.display() + "\" is not a currency code or name of ISO 4217"));
    }

    private static Optional<String> code(String spelled) {
        String text = Trim.strip(spelled).toUpperCase(Locale.ROOT);
        try {
            return Optional.of(Currency.getInstance(text).getCurrencyCode());
        } catch (IllegalArgumentException e) {
            return NAMES.find(spelled);
        }
    }
}
