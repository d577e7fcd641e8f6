package remitto.core.expression;

import dev.cel.common.CelFunctionDecl;
import dev.cel.common.CelOverloadDecl;
import dev.cel.common.types.CelType;
import dev.cel.common.types.ListType;
import dev.cel.common.types.SimpleType;
import dev.cel.runtime.CelFunctionBinding;
import java.math.BigDecimal;
import java.math.RoundingMode;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.time.temporal.ChronoUnit;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.function.Function;
import remitto.core.shaper.E164;
import remitto.core.shaper.NormaliseEmail;
import remitto.core.shaper.PhoneType;
import remitto.core.shaper.Shaped;

/**
 * The functions that expressions have besides those of CEL and its string library. None of them knows what time it
 * is, so that an expression gives the same for the same row whenever it is asked.
 */
public final class Functions {
    /** More than any double has. */
    private static final int MOST_DIGITS = 30;

    private static final ListType TEXTS = ListType.create(SimpleType.STRING);
    private static final List<Documented> ALL = List.of(
            one(
                    "day",
                    "day(time, zone): the date of a point in time in a time zone, as yyyy-mm-dd",
                    SimpleType.STRING,
                    List.of(SimpleType.TIMESTAMP, SimpleType.STRING),
                    args -> date(args[0], text(args[1])).toString()),
            one(
                    "spell",
                    "spell(time, pattern, zone): a point in time as text, such as spell(last_trip, 'd MMM uuuu', 'Europe/Oslo')",
                    SimpleType.STRING,
                    List.of(SimpleType.TIMESTAMP, SimpleType.STRING, SimpleType.STRING),
                    args -> DateTimeFormatter.ofPattern(text(args[1]), Locale.ENGLISH)
                            .format(((Instant) args[0]).atZone(ZoneId.of(text(args[2]))))),
            one(
                    "days_between",
                    "days_between(from, to): whole days from one point in time to another, dates counted at midnight UTC",
                    SimpleType.INT,
                    List.of(SimpleType.TIMESTAMP, SimpleType.TIMESTAMP),
                    args -> ChronoUnit.DAYS.between((Instant) args[0], (Instant) args[1])),
            one(
                    "years_between",
                    "years_between(from, to): whole years from one date to another, as one counts an age",
                    SimpleType.INT,
                    List.of(SimpleType.TIMESTAMP, SimpleType.TIMESTAMP),
                    args -> ChronoUnit.YEARS.between(date(args[0], "UTC"), date(args[1], "UTC"))),
            one(
                    "add_days",
                    "add_days(time, days): so many days later, of 24 hours each",
                    SimpleType.TIMESTAMP,
                    List.of(SimpleType.TIMESTAMP, SimpleType.INT),
                    args -> ((Instant) args[0]).plus((Long) args[1], ChronoUnit.DAYS)),
            one(
                    "phone",
                    "phone(text, country): a phone number as E.164; fails if it is none",
                    SimpleType.STRING,
                    List.of(SimpleType.STRING, SimpleType.STRING),
                    args -> usable(E164.shape(text(args[0]), text(args[1]).toUpperCase(Locale.ROOT)))),
            one(
                    "phone_type",
                    "phone_type(text): of a phone number as E.164, whether it is \"mobile\", \"landline\", \"mobile or landline\" or \"other\"",
                    SimpleType.STRING,
                    List.of(SimpleType.STRING),
                    args -> PhoneType.of(text(args[0])).words()),
            one(
                    "email",
                    "email(text): an e-mail address normalised; fails if it is none",
                    SimpleType.STRING,
                    List.of(SimpleType.STRING),
                    args -> normalised(text(args[0]))),
            one(
                    "domain",
                    "domain(email): what stands behind the at sign of an e-mail address",
                    SimpleType.STRING,
                    List.of(SimpleType.STRING),
                    args -> {
                        String normalise = normalised(text(args[0]));
                        return normalise.substring(normalise.lastIndexOf('@') + 1);
                    }),
            one(
                    "distinct",
                    "distinct(list): the items of a list, each once, in the order they were met",
                    TEXTS,
                    List.of(TEXTS),
                    args -> List.copyOf(new LinkedHashSet<>((List<?>) args[0]))),
            one(
                    "sorted",
                    "sorted(list): the items of a list in the order of their characters",
                    TEXTS,
                    List.of(TEXTS),
                    args -> ((List<?>) args[0])
                            .stream().map(Object::toString).sorted().toList()),
            one(
                    "round",
                    "round(number, digits): to so many digits after the decimal sign, halves away from zero",
                    SimpleType.DOUBLE,
                    List.of(SimpleType.DOUBLE, SimpleType.INT),
                    args -> rounded((Double) args[0], (Long) args[1]).doubleValue()),
            one(
                    "money",
                    "money(amount, currency): an amount as text with as many digits as the currency has, such as \"129.50 NOK\"",
                    SimpleType.STRING,
                    List.of(SimpleType.DOUBLE, SimpleType.STRING),
                    args -> {
                        var currency =
                                java.util.Currency.getInstance(text(args[1]).toUpperCase(Locale.ROOT));
                        return rounded((Double) args[0], Math.max(0, currency.getDefaultFractionDigits()))
                                        .toPlainString()
                                + " "
                                + currency.getCurrencyCode();
                    }));

    private Functions() {}

    /**
     * A function with what it does in words.
     *
     * @param help its arguments and what it gives
     */
    public record Documented(String name, String help, CelFunctionDecl declaration, CelFunctionBinding binding) {}

    public static List<Documented> all() {
        return ALL;
    }

    private static Documented one(
            String name, String help, CelType gives, List<CelType> takes, Function<Object[], Object> does) {
        String overload = "remitto_" + name;
        Iterable<Class<?>> classes =
                takes.stream().<Class<?>>map(Functions::javaClass).toList();
        return new Documented(
                name,
                help,
                CelFunctionDecl.newFunctionDeclaration(name, CelOverloadDecl.newGlobalOverload(overload, gives, takes)),
                CelFunctionBinding.from(overload, classes, does::apply));
    }

    private static Class<?> javaClass(CelType type) {
        if (type.equals(SimpleType.INT)) {
            return Long.class;
        }
        if (type.equals(SimpleType.DOUBLE)) {
            return Double.class;
        }
        if (type.equals(SimpleType.TIMESTAMP)) {
            return Instant.class;
        }
        return type.equals(SimpleType.STRING) ? String.class : List.class;
    }

    private static String text(Object argument) {
        return (String) argument;
    }

    private static LocalDate date(Object instant, String zone) {
        return ((Instant) instant).atZone(ZoneId.of(zone)).toLocalDate();
    }

    private static BigDecimal rounded(double number, long digits) {
        if (digits < -MOST_DIGITS || digits > MOST_DIGITS) {
            throw new Unfit("digits are from -" + MOST_DIGITS + " to " + MOST_DIGITS);
        }
        return BigDecimal.valueOf(number).setScale((int) digits, RoundingMode.HALF_UP);
    }

    private static String normalised(String text) {
        return usable(NormaliseEmail.shape(text, false));
    }

    private static String usable(Shaped shaped) {
        if (shaped instanceof Shaped.Usable usable) {
            return usable.value().display();
        }
        throw new Unfit(((Shaped.Unusable) shaped).reason());
    }

    /** A function was given what it cannot take, with the reason in words. */
    static final class Unfit extends RuntimeException {
        Unfit(String reason) {
            super(reason);
        }
    }
}
