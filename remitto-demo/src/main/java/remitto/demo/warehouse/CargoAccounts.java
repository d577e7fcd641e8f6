package remitto.demo.warehouse;

import java.sql.Connection;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Locale;
import java.util.Random;

/** Accounts that companies opened themselves at the cargo portal, spelled as they liked. */
final class CargoAccounts {
    private static final List<String> FORMS = List.of(" AS", " AB", " ApS", " GmbH", "", "", " Ltd.");

    private final Table accounts;
    private final Table truth;
    private final Instant today;
    /** Of its own, so that the other tables stay as they are. */
    private final Random random = new Random(88);

    CargoAccounts(Connection connection, Instant today) {
        this.accounts = new Table(connection, "ferry.cargo_accounts");
        this.truth = new Table(connection, "truth.company_records");
        this.today = today;
    }

    /** A company as the freight desk knows it. */
    record Company(int number, String vat, String name, String city, String phone) {}

    void add(Company company) {
        truth.add(company.number(), "desk", company.vat());
        for (int again = random.nextInt(10); again < 10; again += 6) {
            String account = "C-" + (40_000 + company.number() * 3 + again / 6);
            accounts.add(
                    account,
                    spelled(company.name()) + FORMS.get(random.nextInt(FORMS.size())),
                    random.nextInt(3) == 0 ? null : "www." + site(company) + ".example",
                    random.nextInt(5) < 3 ? company.vat().replace(" ", random.nextBoolean() ? "" : "-") : null,
                    random.nextInt(6) == 0 ? null : company.city(),
                    random.nextInt(4) == 0 ? null : company.phone(),
                    today.minus(Duration.ofHours(1 + random.nextInt(9_000))));
            truth.add(company.number(), "portal", account);
        }
    }

    private static String site(Company company) {
        return company.name().toLowerCase(Locale.ROOT).replaceAll("[^a-z0-9]+", "-");
    }

    private String spelled(String name) {
        return switch (random.nextInt(6)) {
            case 0 -> name.toUpperCase(Locale.ROOT);
            case 1 -> name.toLowerCase(Locale.ROOT);
            default -> name;
        };
    }

    void flush() {
        accounts.flush();
        truth.flush();
    }
}
