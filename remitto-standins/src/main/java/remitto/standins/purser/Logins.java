package remitto.standins.purser;

import java.util.List;
import java.util.Optional;

/** The people at the desk who can sign in, each with what they may do. */
final class Logins {
    /** @param rights such as {@code contact.write}; {@code *.write} stands for every object */
    record Login(String name, String email, String password, List<String> rights) {
        boolean may(String object, String what) {
            return rights.contains(object + "." + what) || rights.contains("*." + what);
        }
    }

    private static final List<Login> ALL = List.of(
            new Login("Runa Vik", "runa.vik@halvorn.example", "harbour-5512", List.of("*.read", "*.write")),
            new Login("Odd Berge", "odd.berge@halvorn.example", "lighthouse-9083", List.of("*.read")));

    private Logins() {}

    static Optional<Login> with(String email, String password) {
        return ALL.stream()
                .filter(one -> one.email().equalsIgnoreCase(email.strip())
                        && one.password().equals(password))
                .findFirst();
    }

    /** A program that signs in for itself may do everything. */
    static Login program(String client) {
        return new Login(client, "", "", List.of("*.read", "*.write"));
    }

    static Optional<Login> named(String email) {
        return ALL.stream().filter(one -> one.email().equals(email)).findFirst();
    }
}
