package remitto.connect.database;

import java.util.regex.Pattern;

/**
 * How to reach a database. Every part is a value of its own and none is read as part of an address, so that a host or a
 * name of a database cannot bring settings of the driver along.
 *
 * @param tls what the connection asks of TLS
 */
public record DatabaseSettings(String host, int port, String database, String user, String password, Tls tls) {
    private static final Pattern HOST =
            Pattern.compile("[A-Za-z0-9]([A-Za-z0-9._-]{0,251}[A-Za-z0-9])?|[0-9A-Fa-f:.]{2,45}");
    private static final int LONGEST_NAME = 63;

    public DatabaseSettings {
        if (!HOST.matcher(host).matches()) {
            throw new IllegalArgumentException("The host is a name or an IP address, without port, path or settings.");
        }
        if (port < 1 || port > 65_535) {
            throw new IllegalArgumentException("The port is a number from 1 to 65535.");
        }
        name("database", database);
        name("user", user);
    }

    /** What the connection asks of TLS. */
    public enum Tls {
        OFF,
        REQUIRED,
        VERIFIED
    }

    private static void name(String what, String text) {
        boolean fits = !text.isBlank()
                && text.length() <= LONGEST_NAME
                && text.codePoints().noneMatch(c -> Character.isISOControl(c) || "?&#%/\\".indexOf(c) >= 0);
        if (!fits) {
            throw new IllegalArgumentException(
                    "The name of the " + what + " has 1 to " + LONGEST_NAME + " characters and none of ? & # % / \\.");
        }
    }

    @Override
    public String toString() {
        return user + "@" + host + ":" + port + "/" + database;
    }
}
