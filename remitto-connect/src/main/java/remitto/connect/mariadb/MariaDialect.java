package remitto.connect.mariadb;

import remitto.connect.database.DatabaseSettings;
import remitto.connect.database.Dialect;

/** What is known of MariaDB as a source. */
public final class MariaDialect {
    private MariaDialect() {}

    public static Dialect<DatabaseSettings> dialect() {
        return new Dialect<>(new MariaSpelling(), new MariaSessions());
    }
}
