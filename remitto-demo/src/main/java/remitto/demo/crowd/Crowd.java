package remitto.demo.crowd;

import java.time.LocalDate;
import java.time.format.DateTimeFormatter;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.SplittableRandom;

/**
 * Generates records of people who live in households and appear in four systems. The same seed and number always give the
 * same records. The rates of noise are fixed here and were so before any rule was tuned.
 */
public final class Crowd {
    /** What is known of each record; the full name stands where given and family name are blank. */
    public static final List<String> COLUMNS = List.of(
            "given_name", "family_name", "full_name", "email", "phone", "birth_date", "street", "postcode", "town");

    private static final double TYPO = 0.02;
    private static final double NAMES_SWAPPED = 0.005;
    private static final double NICKNAME = 0.05;
    private static final double NO_EMAIL = 0.08;
    private static final double NO_PHONE = 0.15;
    private static final double NO_BIRTH_DATE = 0.10;
    private static final double OTHER_EMAIL = 0.12;
    private static final double OTHER_PHONE = 0.08;
    private static final double MOVED = 0.08;
    private static final double FAMILY_EMAIL = 0.05;
    private static final double FAMILY_PHONE = 0.25;
    private static final double TWINS = 0.02;
    private static final double JUNIOR = 0.02;
    private static final double DATE_SLIP = 0.01;
    private static final DateTimeFormatter DAY_FIRST = DateTimeFormatter.ofPattern("dd.MM.yyyy");

    private final SplittableRandom random;
    private final CrowdNames names;
    private int records;
    private int persons;
    private int namesakesLeft;

    public Crowd(long seed) {
        this.random = new SplittableRandom(seed);
        this.names = new CrowdNames(random.split());
    }

    /** Takes records. */
    public interface Sink {
        /**
         * @param person number that tells who it truly is
         * @param values as {@link Crowd#COLUMNS}; blank for none
         */
        void take(String source, String key, int person, String[] values);
    }

    /**
     * @param number of records at least; a household is not cut
     * @param namesakes people of one name, each in a household of their own
     */
    public void generate(int number, int namesakes, Sink sink) {
        this.namesakesLeft = namesakes;
        while (records < number) {
            household(sink);
        }
    }

    private record Address(String street, String postcode, String town) {}

    private record Person(
            int number, String given, String family, String email, String phone, LocalDate born, Address address) {}

    private void household(Sink sink) {
        Address address = address();
        String family = names.family();
        String homePhone = phone();
        int size = 1 + random.nextInt(4);
        LocalDate twin = born();
        String shared = "";
        Set<String> inUse = new HashSet<>();
        for (int i = 0; i < size; i++) {
            boolean one = i == 0 && namesakesLeft-- > 0;
            String given = one ? "Kari" : called(inUse);
            inUse.add(given);
            String called = one ? "Holm" : random.nextInt(8) == 0 ? names.family() : family;
            boolean isTwin = i > 0 && chance(TWINS);
            String own = mail(given, called);
            String email = !shared.isEmpty() && chance(FAMILY_EMAIL) ? shared : own;
            shared = email;
            String phone = chance(FAMILY_PHONE) ? homePhone : phone();
            LocalDate born = isTwin ? twin : born();
            twin = born;
            person(new Person(persons++, given, called, email, phone, born, address), sink);
        }
    }

    /** Children are seldom called as somebody of the household is already. */
    private String called(Set<String> inUse) {
        String given = names.given();
        while (inUse.contains(given) && !chance(JUNIOR)) {
            given = names.given();
        }
        return given;
    }

    private void person(Person person, Sink sink) {
        boolean any = false;
        while (!any) {
            any = write(person, "ticketing", 0.62, true, sink);
            any |= write(person, "pass", 0.48, true, sink);
            if (random.nextInt(12) == 0) {
                any |= write(person, "ticketing", 1, true, sink);
            }
            any |= write(person, "wifi", 0.30, false, sink);
            any |= newsletter(person, sink);
        }
    }

    private boolean write(Person person, String source, double share, boolean whole, Sink sink) {
        if (!chance(share)) {
            return false;
        }
        String given = typed(chance(NICKNAME) ? names.nickname(person.given()) : person.given());
        String family = typed(person.family());
        if (chance(NAMES_SWAPPED)) {
            String kept = given;
            given = family;
            family = kept;
        }
        Address address = chance(MOVED) ? address() : person.address();
        LocalDate born = chance(DATE_SLIP) ? person.born().plusDays(1 + random.nextInt(9)) : person.born();
        sink.take(source, source.charAt(0) + "-" + records++, person.number(), new String[] {
            whole ? given : "",
            whole ? family : "",
            whole ? "" : (given + " " + family).toLowerCase(Locale.ROOT),
            chance(NO_EMAIL) ? "" : chance(OTHER_EMAIL) ? mail(person.given(), person.family()) : person.email(),
            chance(NO_PHONE) ? "" : chance(OTHER_PHONE) ? phone() : spelled(person.phone()),
            !whole || chance(NO_BIRTH_DATE) ? "" : random.nextInt(3) == 0 ? born.format(DAY_FIRST) : born.toString(),
            whole ? address.street() : "",
            whole ? address.postcode() : "",
            whole ? address.town() : "",
        });
        return true;
    }

    private boolean newsletter(Person person, Sink sink) {
        if (!chance(0.35)) {
            return false;
        }
        String email = chance(OTHER_EMAIL) ? mail(person.given(), person.family()) : person.email();
        sink.take("newsletter", "n-" + records++, person.number(), new String[] {
            "", "", person.given().charAt(0) + ". " + person.family(), email, "", "", "", "", ""
        });
        return true;
    }

    private boolean chance(double share) {
        return random.nextDouble() < share;
    }

    private String typed(String name) {
        if (!chance(TYPO) || name.length() < 3) {
            return random.nextInt(15) == 0 ? name.toUpperCase(Locale.ROOT) : name;
        }
        int at = 1 + random.nextInt(name.length() - 2);
        String letter = String.valueOf((char) ('a' + random.nextInt(26)));
        return switch (random.nextInt(4)) {
            case 0 -> name.substring(0, at) + name.substring(at + 1);
            case 1 -> name.substring(0, at) + letter + name.substring(at);
            case 2 -> name.substring(0, at) + letter + name.substring(at + 1);
            default -> name.substring(0, at) + name.charAt(at + 1) + name.charAt(at) + name.substring(at + 2);
        };
    }

    private LocalDate born() {
        return LocalDate.of(1938 + random.nextInt(70), 1, 1).plusDays(random.nextInt(365));
    }

    private Address address() {
        int place = random.nextInt(900);
        return new Address(
                names.street() + " " + (1 + random.nextInt(90)),
                String.format(Locale.ROOT, "%04d", 1000 + place * 9),
                names.town(place));
    }

    private String phone() {
        return "+479" + String.format(Locale.ROOT, "%07d", 1_000_000 + random.nextInt(8_900_000));
    }

    private String spelled(String phone) {
        return switch (random.nextInt(3)) {
            case 0 -> phone.substring(3);
            case 1 -> "0047 " + phone.substring(3, 6) + " " + phone.substring(6);
            default -> phone;
        };
    }

    private String mail(String given, String family) {
        String name = CrowdNames.plain(given) + "." + CrowdNames.plain(family);
        return name + random.nextInt(100_000) + "@"
                + List.of("kai", "sol", "brygge", "nordvind").get(random.nextInt(4)) + ".example";
    }
}
