package remitto.core.shaper;

import com.google.i18n.phonenumbers.NumberParseException;
import com.google.i18n.phonenumbers.PhoneNumberUtil;
import com.google.i18n.phonenumbers.PhoneNumberUtil.PhoneNumberFormat;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import remitto.core.dataset.Row;
import remitto.core.value.Value;

/**
 * A phone number in any common spelling as E.164 (ITU-T).
 *
 * @param country ISO 3166-1 alpha-2 code of the country a national number belongs to
 * @param countryColumn column that names the country of each record; blank for {@code country} always, which also
 *     serves where that column is empty; then it may be blank, so that such a number is held
 */
public record E164(String country, String countryColumn) implements PureShaper {
    public E164 {
        country = country.strip().toUpperCase(Locale.ROOT);
    }

    @Override
    public String title() {
        return "E.164, " + (countryColumn.isBlank() ? country : "country from " + countryColumn);
    }

    @Override
    public Shaped apply(Value value, Row row) {
        return value.isEmpty() ? new Shaped.Usable(value) : shape(value.display(), home(row));
    }

    /** @param home ISO 3166-1 alpha-2 */
    public static Shaped shape(String spelled, String home) {
        Optional<String> plain = SpelledOut.international(spelled);
        if (plain.isPresent()) {
            return new Shaped.Usable(new Value.Text(plain.get()));
        }
        PhoneNumberUtil phones = PhoneNumberUtil.getInstance();
        try {
            var number = phones.parse(spelled, home);
            if (phones.isValidNumber(number)) {
                return new Shaped.Usable(new Value.Text(phones.format(number, PhoneNumberFormat.E164)));
            }
        } catch (NumberParseException e) {
            // told below, in the same words
        }
        return new Shaped.Unusable("\"" + spelled + "\" is not a phone number given out in "
                + (home.isEmpty() ? "the country in its row, which is empty" : home + " or the country in its row"));
    }

    @Override
    public Set<String> columns() {
        return countryColumn.isBlank() ? Set.of() : Set.of(countryColumn);
    }

    private String home(Row row) {
        return row.cell(countryColumn)
                .map(cell -> cell.strip().toUpperCase(Locale.ROOT))
                .filter(cell -> !cell.isEmpty())
                .orElse(country);
    }
}
