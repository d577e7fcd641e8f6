package remitto.connect.table;

import java.net.URI;
import java.util.Set;

/**
 * Where a database is, such as {@code postgresql://warehouse.example:5432/halvorn?sslmode=require}.
 *
 * @param sslmode disable, require or verify-full
 */
record TableAddress(URI uri, String host, int port, String database, String sslmode) {
    private static final Set<String> MODES = Set.of("disable", "require", "verify-full");

    /** @throws IllegalArgumentException saying what is wrong with it; nothing but host, port, database and sslmode is taken */
    static TableAddress of(String text) {
        URI uri = URI.create(text.strip());
        String database = uri.getPath() == null ? "" : uri.getPath().replaceFirst("^/", "");
        if (!"postgresql".equals(uri.getScheme())
                || uri.getHost() == null
                || uri.getUserInfo() != null
                || !database.matches("[A-Za-z0-9_.$-]+")) {
            throw new IllegalArgumentException(
                    "The address is of the form postgresql://host:5432/database, without user and password.");
        }
        String query = uri.getQuery() == null ? "" : uri.getQuery();
        String mode = query.isEmpty() ? "require" : query.replaceFirst("^sslmode=", "");
        if (!MODES.contains(mode)) {
            throw new IllegalArgumentException(
                    "After the database only ?sslmode=disable, require or verify-full may stand.");
        }
        return new TableAddress(uri, uri.getHost(), uri.getPort() < 0 ? 5432 : uri.getPort(), database, mode);
    }
}
