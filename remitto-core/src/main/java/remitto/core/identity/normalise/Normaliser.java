package remitto.core.identity.normalise;

import java.math.BigDecimal;
import java.util.Arrays;
import java.util.stream.Collectors;
import remitto.core.identity.record.Attribute;
import remitto.core.shaper.E164;
import remitto.core.shaper.NormaliseEmail;
import remitto.core.shaper.Shaped;
import remitto.core.value.Numbers;

/**
 * Spells values as they are compared. The original values are kept elsewhere. Not safe to share between threads.
 *
 * @see PersonName for full names, which become two values
 */
public final class Normaliser {
    private final PlainText plain = new PlainText();
    private final boolean withoutTag;

    /** @param withoutTag what follows a plus sign in an e-mail address is dropped, as some providers do */
    public Normaliser(boolean withoutTag) {
        this.withoutTag = withoutTag;
    }

    /** @return yyyymmdd, or the digits of what is no date; blank when there is nothing that could be compared */
    public String birthDate(String spelled, DateOrder order) {
        return BirthDates.normalise(spelled, order);
    }

    /**
     * @param country ISO 3166-1 alpha-2 of the record, for phone numbers spelled nationally
     * @return blank when there is nothing that could be compared
     */
    public String normalise(Attribute.Kind kind, String spelled, String country) {
        if (spelled.isBlank()) {
            return "";
        }
        return switch (kind) {
            case GIVEN_NAME -> PersonName.given(spelled, plain);
            case FAMILY_NAME -> PersonName.family(spelled, plain);
            case EMAIL -> usable(NormaliseEmail.shape(spelled, withoutTag));
            case PHONE -> usable(E164.shape(spelled, country));
            case BIRTH_DATE -> birthDate(spelled, DateOrder.DAY_FIRST);
            case POSTCODE, IDENTIFIER -> plain.of(spelled).replace(" ", "");
            case COMPANY -> CompanyName.normalise(spelled, plain);
            case DOMAIN -> Domains.normalise(spelled);
            case VERBATIM -> spelled.strip();
            case NUMBER -> number(spelled);
            case LIST -> list(spelled);
            case CONSENT -> Answers.normalise(plain.of(spelled));
            case FULL_NAME, ADDRESS, TOWN, TEXT -> plain.of(spelled);
        };
    }

    private static String number(String spelled) {
        try {
            return Numbers.bounded(new BigDecimal(spelled.strip().replace(" ", "")))
                    .stripTrailingZeros()
                    .toPlainString();
        } catch (NumberFormatException e) {
            return "";
        }
    }

    private String list(String spelled) {
        return Arrays.stream(spelled.split("[,;|\\n]"))
                .map(one -> plain.of(one).replace(" ", ""))
                .filter(one -> !one.isEmpty())
                .distinct()
                .sorted()
                .collect(Collectors.joining("|"));
    }

    public PersonName name(String full) {
        return PersonName.split(full, plain);
    }

    private static String usable(Shaped shaped) {
        return shaped instanceof Shaped.Usable usable ? usable.value().display() : "";
    }
}
