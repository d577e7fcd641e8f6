package remitto.demo.warehouse;

import com.google.i18n.phonenumbers.NumberParseException;
import com.google.i18n.phonenumbers.PhoneNumberUtil;
import java.io.IOException;
import java.io.InputStream;
import java.math.BigDecimal;
import java.nio.charset.StandardCharsets;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.time.temporal.ChronoUnit;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.SplittableRandom;
import org.jspecify.annotations.Nullable;
import remitto.core.identity.normalise.PlainText;
import remitto.demo.warehouse.Names.Country;

/**
 * Generates the warehouse of Halvorn Ferries, a made-up line between islands. The same seed, size and day always
 * give the same rows. The same people appear in several systems under different spellings; which records are one
 * person is kept in the schema {@code truth}, which no reader is granted.
 */
public final class Halvorn {
    private static final int CROSSINGS_A_DAY = 24;
    private static final int DAYS = 400;

    private final PlainText plainText = new PlainText();
    private final Connection connection;
    private final SplittableRandom random;
    private final int people;
    private final Instant today;

    /** @param today the last day data exists for */
    public Halvorn(Connection connection, long seed, int people, LocalDate today) {
        this.connection = connection;
        this.random = new SplittableRandom(seed);
        this.people = people;
        this.today = today.atStartOfDay(ZoneOffset.UTC).toInstant();
    }

    private record Person(
            int number, Country country, String given, String family, String email, String phone, LocalDate born) {}

    public void load() {
        try (Statement statement = connection.createStatement();
                InputStream in = Halvorn.class.getResourceAsStream("/halvorn.sql")) {
            statement.execute(new String(in.readAllBytes(), StandardCharsets.UTF_8));
            ports();
            crossings();
            peopleAndTheirRecords();
            freight();
            statement.execute(
                    "create index on ferry.pass_trips (pass_number); create index on ferry.pass_holders (pass_number);"
                            + " create index on ferry.customers (customer_no); create index on ferry.invoices (vat_number); analyze");
        } catch (SQLException | IOException e) {
            throw new IllegalStateException("the warehouse could not be generated", e);
        }
    }

    private void ports() {
        Table ports = new Table(connection, "ferry.ports");
        List<String> places = Names.PLACES;
        for (int i = 0; i < places.size(); i++) {
            ports.add(
                    code(places.get(i)),
                    places.get(i),
                    i < 6 ? "NO" : "SE",
                    i < 6 ? "Europe/Oslo" : "Europe/Stockholm");
        }
        ports.flush();
    }

    private void crossings() {
        Table crossings = new Table(connection, "ferry.crossings");
        for (int day = 0; day < DAYS; day++) {
            for (int i = 0; i < CROSSINGS_A_DAY; i++) {
                int from = i % Names.PLACES.size();
                int to = (from + 1 + i / Names.PLACES.size()) % Names.PLACES.size();
                Instant departs = today.minus(DAYS - day, ChronoUnit.DAYS).plus(5 * 60 + i * 40L, ChronoUnit.MINUTES);
                crossings.add(
                        (long) day * CROSSINGS_A_DAY + i,
                        code(Names.PLACES.get(from)) + "-" + code(Names.PLACES.get(to)),
                        code(Names.PLACES.get(from)),
                        code(Names.PLACES.get(to)),
                        departs);
            }
        }
        crossings.flush();
    }

    private void peopleAndTheirRecords() {
        Table customers = new Table(connection, "ferry.customers");
        Table bookings = new Table(connection, "ferry.bookings");
        Table passes = new Table(connection, "ferry.pass_holders");
        Table trips = new Table(connection, "ferry.pass_trips");
        Table wifi = new Table(connection, "ferry.wifi_signups");
        Table newsletter = new Table(connection, "ferry.newsletter_signups");
        Table consents = new Table(connection, "ferry.consents");
        Table churn = new Table(connection, "ferry.churn_scores");
        Table truth = new Table(connection, "truth.person_records");
        long booking = 1;
        for (int i = 1; i <= people; i++) {
            Person person = person(i);
            if (random.nextInt(100) < 62) {
                String number = "T-" + (880_000 + i);
                customers.add(
                        number,
                        spelled(person.given),
                        spelled(person.family),
                        mail(person),
                        phone(person),
                        person.country.code(),
                        person.born,
                        ago(30, 900),
                        ago(1, 200));
                for (int b = random.nextInt(6); b > 0; b--) {
                    bookings.add(booking++, number, crossing(), ago(1, 300), amount(12, 240), "NOK");
                }
                churn.add(number, amount(0, 100), ago(0, 7));
                truth.add(i, "ticketing", number);
            }
            if (random.nextInt(100) < 48) {
                pass(person, passes, trips, truth);
            }
            if (random.nextInt(100) < 30) {
                String number = "W-" + (5_000 + i);
                wifi.add(
                        number,
                        person.given.toLowerCase(Locale.ROOT) + " " + person.family.toLowerCase(Locale.ROOT),
                        mail(person),
                        random.nextInt(3) == 0 ? null : phone(person),
                        ago(1, 300));
                truth.add(i, "wifi", number);
            }
            if (random.nextInt(100) < 35) {
                String number = "N-" + (30_000 + i);
                newsletter.add(
                        number,
                        person.email,
                        person.given.substring(0, 1) + ". " + person.family,
                        person.country.language(),
                        ago(1, 500));
                consents.add(
                        person.email,
                        "newsletter",
                        "email",
                        random.nextInt(8) == 0 ? "no" : "yes",
                        ago(1, 400),
                        "newsletter");
                truth.add(i, "newsletter", number);
            }
        }
        for (Table table : List.of(customers, bookings, passes, trips, wifi, newsletter, consents, churn, truth)) {
            table.flush();
        }
    }

    private void pass(Person person, Table passes, Table trips, Table truth) {
        String number = "P-" + (20_000 + person.number);
        int luck = random.nextInt(1000);
        String status = luck < 700 ? "active" : luck < 850 ? "expired" : luck < 950 ? "cancelled" : "applied";
        String consent = random.nextInt(100) < 86 ? "yes" : random.nextBoolean() ? "no" : null;
        String phone = luck % 83 == 5 ? "ring the harbour office" : luck % 29 == 3 ? null : phone(person);
        passes.add(
                number,
                luck % 61 == 7 ? " " + person.given + " " : person.given,
                luck % 211 == 9
                        ? person.family + ", formerly of the " + Names.PLACES.get(0)
                                + " pilot station and the outer lights"
                        : person.family,
                luck % 47 == 2 ? person.email.toUpperCase(Locale.ROOT) : person.email,
                phone,
                person.country.code(),
                person.born,
                code(Names.PLACES.get(random.nextInt(Names.PLACES.size()))),
                status,
                consent,
                LocalDate.ofInstant(today, ZoneOffset.UTC).plusDays(random.nextInt(400) - 60),
                ago(1, 120));
        for (int t = status.equals("active") ? random.nextInt(18) : random.nextInt(3); t > 0; t--) {
            trips.add(number, crossing(), ago(quiet(person) ? 40 : 0, 150));
        }
        truth.add(person.number, "pass", number);
    }

    /** Every eighth pass has not been used for over a month: whoever lapses is there on every day and at every size. */
    private static boolean quiet(Person person) {
        return person.number % 8 == 3;
    }

    private void freight() {
        Table companies = new Table(connection, "ferry.freight_companies");
        Table contacts = new Table(connection, "ferry.freight_contacts");
        Table invoices = new Table(connection, "ferry.invoices");
        Table truth = new Table(connection, "truth.person_records");
        CargoAccounts accounts = new CargoAccounts(connection, today);
        int count = Math.max(60, people / 6);
        long invoice = 1;
        for (int i = 0; i < count; i++) {
            Country country = Names.COUNTRIES.get(random.nextInt(4));
            String vat = country.code() + " " + (910_000_000 + i * 977);
            String name =
                    Names.FIRM.get(i % Names.FIRM.size()) + " " + Names.TRADES.get(random.nextInt(Names.TRADES.size()))
                            + (i >= Names.FIRM.size() ? " " + (1 + i / Names.FIRM.size()) : "");
            String currency =
                    switch (country.code()) {
                        case "NO" -> "NOK";
                        case "SE" -> "SEK";
                        case "DK" -> "DKK";
                        default -> "EUR";
                    };
            String city = Names.PLACES.get(random.nextInt(Names.PLACES.size()));
            String phone = mobile(country);
            accounts.add(new CargoAccounts.Company(i, vat, name, city, phone));
            companies.add(
                    vat,
                    name,
                    country.code(),
                    city,
                    phone,
                    amount(5, 90).setScale(0, java.math.RoundingMode.DOWN).multiply(BigDecimal.valueOf(1000)),
                    currency,
                    Names.MANAGERS.get(random.nextInt(Names.MANAGERS.size())),
                    ago(1, 200));
            for (int c = 1 + random.nextInt(3); c > 0; c--) {
                Person person = person(people + i * 4 + c);
                truth.add(person.number, "freight", "F-" + (i * 10 + c));
                contacts.add("F-" + (i * 10 + c), vat, person.given + " " + person.family, person.email, person.phone);
            }
            for (int v = random.nextInt(8); v > 0; v--) {
                invoices.add(
                        invoice++,
                        vat,
                        LocalDate.ofInstant(ago(1, 500), ZoneOffset.UTC),
                        amount(800, 60_000),
                        currency,
                        1 + random.nextInt(400));
            }
        }
        companies.flush();
        contacts.flush();
        truth.flush();
        accounts.flush();
        invoices.flush();
    }

    private Person person(int number) {
        int pick = random.nextInt(100);
        Country country = Names.COUNTRIES.get(0);
        for (Country one : Names.COUNTRIES) {
            pick -= one.share();
            country = one;
            if (pick < 0) {
                break;
            }
        }
        String given = country.given().get(random.nextInt(country.given().size()));
        String family = country.family().get(random.nextInt(country.family().size()));
        String email = plain(given) + "." + plain(family) + number + "@"
                + List.of("kai", "sol", "brygge", "nordvind").get(random.nextInt(4)) + ".example";
        LocalDate born = LocalDate.of(1940 + random.nextInt(66), 1 + random.nextInt(12), 1 + random.nextInt(28));
        return new Person(number, country, given, family, email, mobile(country), born);
    }

    private String spelled(String name) {
        return random.nextInt(12) == 0 ? name.toUpperCase(Locale.ROOT) : random.nextInt(10) == 0 ? plain(name) : name;
    }

    private String mail(Person person) {
        return random.nextInt(9) == 0
                ? plain(person.given).charAt(0) + "." + plain(person.family) + person.number + "@kai.example"
                : person.email;
    }

    private @Nullable String phone(Person person) {
        return switch (random.nextInt(6)) {
            case 0 -> person.country.prefix() + " " + person.phone.replaceFirst("^0", "");
            case 1 -> person.phone.replaceAll("(\\d{3})(\\d{2})", "$1 $2 ");
            case 2 -> "00" + person.country.prefix().substring(1) + person.phone.replaceFirst("^0", "");
            case 3 -> random.nextInt(4) == 0 ? null : person.phone;
            default -> person.phone;
        };
    }

    /** A number that could be given out in the country, so that most of the demo's phones are good ones. */
    private String mobile(Country country) {
        PhoneNumberUtil phones = PhoneNumberUtil.getInstance();
        while (true) {
            String number = digits(country.dial());
            try {
                if (phones.isValidNumber(phones.parse(number, country.code()))) {
                    return number;
                }
            } catch (NumberParseException e) {
                throw new IllegalStateException("the pattern of " + country.code() + " gives no number", e);
            }
        }
    }

    private String digits(String pattern) {
        StringBuilder out = new StringBuilder();
        for (char c : pattern.toCharArray()) {
            out.append(c == '#' ? (char) ('0' + random.nextInt(10)) : c);
        }
        return out.toString();
    }

    private long crossing() {
        return random.nextLong((long) DAYS * CROSSINGS_A_DAY);
    }

    private BigDecimal amount(int from, int to) {
        return BigDecimal.valueOf(from * 100L + random.nextLong((to - from) * 100L), 2);
    }

    private Instant ago(int fromDays, int toDays) {
        return today.minus(fromDays * 86_400L + random.nextLong((toDays - fromDays) * 86_400L + 1), ChronoUnit.SECONDS);
    }

    /** The ports, in the order of the line: code and name. */
    public static Map<String, String> portNames() {
        Map<String, String> names = new LinkedHashMap<>();
        PlainText letters = new PlainText();
        Names.PLACES.forEach(place -> names.put(code(place, letters), place));
        return names;
    }

    private String code(String place) {
        return code(place, plainText);
    }

    private static String code(String place, PlainText letters) {
        return plain(place, letters).toUpperCase(Locale.ROOT).substring(0, 3);
    }

    /** The letters of a name as an address spells them. */
    private static String plain(String name, PlainText letters) {
        return letters.of(name).replaceAll("[^a-z]", "");
    }

    private String plain(String name) {
        return plain(name, plainText);
    }
}
