package remitto.core.shaper;

import com.fasterxml.jackson.annotation.JsonSubTypes;
import com.fasterxml.jackson.annotation.JsonTypeInfo;
import com.google.i18n.phonenumbers.NumberParseException;
import com.google.i18n.phonenumbers.PhoneNumberUtil;
import com.google.i18n.phonenumbers.PhoneNumberUtil.PhoneNumberFormat;
import java.time.LocalDate;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.time.format.ResolverStyle;
import java.util.Locale;
import java.util.Set;
import org.apache.commons.codec.digest.DigestUtils;
import remitto.core.dataset.Row;
import remitto.core.value.Value;

/** One step that changes the form of a value. Empty values pass untouched. */
@JsonTypeInfo(use = JsonTypeInfo.Id.NAME, property = "kind")
@JsonSubTypes({
    @JsonSubTypes.Type(value = Shaper.Trim.class, name = "trim"),
    @JsonSubTypes.Type(value = Shaper.LowerCase.class, name = "lower"),
    @JsonSubTypes.Type(value = Shaper.E164.class, name = "e164"),
    @JsonSubTypes.Type(value = Shaper.ToDate.class, name = "date"),
    @JsonSubTypes.Type(value = Shaper.Sha256.class, name = "sha256")
})
public sealed interface Shaper {

    /** A short name for the step, as the followed record shows it. */
    String title();

    /** @param row the record's other columns, for shapers that look at one */
    Shaped apply(Value value, Row row);

    /** Other columns the outcome depends on. */
    default Set<String> columns() {
        return Set.of();
    }

    /** Takes white space (Unicode) from both ends. */
    record Trim() implements Shaper {
        @Override
        public String title() {
            return "Trim";
        }

        @Override
        public Shaped apply(Value value, Row row) {
            return new Shaped.Usable(value instanceof Value.Text text ? new Value.Text(strip(text.text())) : value);
        }

        private static String strip(String text) {
            int from = 0;
            int to = text.length();
            while (from < to && isSpace(text.charAt(from))) {
                from++;
            }
            while (to > from && isSpace(text.charAt(to - 1))) {
                to--;
            }
            return text.substring(from, to);
        }

        private static boolean isSpace(char c) {
            return Character.isWhitespace(c) || Character.isSpaceChar(c);
        }
    }

    /** Lower case by the Unicode rules that hold for every language. */
    record LowerCase() implements Shaper {
        @Override
        public String title() {
            return "Lower case";
        }

        @Override
        public Shaped apply(Value value, Row row) {
            return new Shaped.Usable(
                    value instanceof Value.Text text
                            ? new Value.Text(text.text().toLowerCase(Locale.ROOT))
                            : value);
        }
    }

    /**
     * A phone number in any common spelling as E.164 (ITU-T).
     *
     * @param country ISO 3166-1 alpha-2 code of the country a national number belongs to
     * @param countryColumn column that names the country of each record; blank for {@code country} always, which
     *     also serves where that column is empty
     */
    record E164(String country, String countryColumn) implements Shaper {
        public E164 {
            country = country.strip().toUpperCase(Locale.ROOT);
        }

        @Override
        public String title() {
            return "E.164, " + (countryColumn.isBlank() ? country : "country from " + countryColumn);
        }

        @Override
        public Shaped apply(Value value, Row row) {
            if (value.isEmpty()) {
                return new Shaped.Usable(value);
            }
            PhoneNumberUtil phones = PhoneNumberUtil.getInstance();
            String home = home(row);
            try {
                var number = phones.parse(value.display(), home);
                if (!phones.isValidNumber(number)) {
                    return no(value, home);
                }
                return new Shaped.Usable(new Value.Text(phones.format(number, PhoneNumberFormat.E164)));
            } catch (NumberParseException e) {
                return no(value, home);
            }
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

        private static Shaped no(Value value, String home) {
            return new Shaped.Unusable("\"" + value.display() + "\" is not a phone number given out in " + home
                    + " or the country it names");
        }
    }

    /**
     * A date out of a date, a point in time or a text.
     *
     * @param pattern how a text spells it (java.time pattern, for example {@code dd.MM.uuuu}); blank for ISO 8601
     * @param zone zone (tz database) in which a point in time is turned into its date
     */
    record ToDate(String pattern, String zone) implements Shaper {
        @Override
        public String title() {
            return "Date" + (pattern.isBlank() ? "" : ", " + pattern);
        }

        @Override
        public Shaped apply(Value value, Row row) {
            if (value.isEmpty() || value instanceof Value.Day) {
                return new Shaped.Usable(value);
            }
            try {
                if (value instanceof Value.Moment moment) {
                    return new Shaped.Usable(new Value.Day(
                            moment.instant().atZone(ZoneId.of(zone)).toLocalDate()));
                }
                DateTimeFormatter format = pattern.isBlank()
                        ? DateTimeFormatter.ISO_LOCAL_DATE
                        : DateTimeFormatter.ofPattern(pattern, Locale.ROOT).withResolverStyle(ResolverStyle.STRICT);
                return new Shaped.Usable(
                        new Value.Day(LocalDate.parse(value.display().strip(), format)));
            } catch (RuntimeException e) {
                return new Shaped.Unusable("\"" + value.display() + "\" is not a date"
                        + (pattern.isBlank() ? " (year-month-day)" : " spelled " + pattern));
            }
        }
    }

    /** SHA-256 (FIPS 180-4) of the text in UTF-8, as 64 hexadecimal digits in lower case. */
    record Sha256() implements Shaper {
        @Override
        public String title() {
            return "SHA-256";
        }

        @Override
        public Shaped apply(Value value, Row row) {
            return new Shaped.Usable(value.isEmpty() ? value : new Value.Text(DigestUtils.sha256Hex(value.display())));
        }
    }
}
