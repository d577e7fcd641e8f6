package remitto.server.source;

import java.util.Locale;
import java.util.Optional;
import remitto.connect.database.DatabaseSettings;

/**
 * A database that is read, without its password.
 *
 * @param dialect name of the kind of database, as {@code GET /api/sources/dialects} lists them; absent for PostgreSQL
 */
public record DatabaseAddress(
        String host, int port, String database, String user, DatabaseSettings.Tls tls, Optional<String> dialect)
        implements SourceAddress {
    public DatabaseAddress {
        // Texts in which it is spelled out are the same as those in which it is not said.
        dialect = dialect.filter(name -> !name.equals(Dialects.POSTGRESQL));
    }

    /** @return of PostgreSQL */
    public static DatabaseAddress postgresql(
            String host, int port, String database, String user, DatabaseSettings.Tls tls) {
        return new DatabaseAddress(host, port, database, user, tls, Optional.empty());
    }

    /** The name of its dialect, said or not. */
    public String dialectName() {
        return dialect.orElse(Dialects.POSTGRESQL);
    }

    @Override
    public boolean isLocked() {
        return true;
    }

    @Override
    public String words() {
        return dialect.map(name -> name + " ").orElse("") + user + "@" + host + ":" + port + "/" + database + ", TLS "
                + tls.name().toLowerCase(Locale.ROOT);
    }

    DatabaseSettings settings(String password) {
        return new DatabaseSettings(host, port, database, user, password, tls);
    }
}
