package remitto.connect.postgres;

import remitto.connect.database.CheckedTexts;
import remitto.connect.database.DatabaseConnections;
import remitto.connect.database.DatabaseSettings;
import remitto.connect.database.DatabaseSource;
import remitto.connect.database.Dialect;
import remitto.connect.outgoing.AddressGuard;
import remitto.connect.source.Readers;

/** What is known of PostgreSQL as a source. */
public final class PostgresDialect {
    private PostgresDialect() {}

    /** A database that is read to the end, whatever happens, each time through a connection of its own. */
    public static DatabaseSource<DatabaseSettings> source(DatabaseSettings settings, AddressGuard guard) {
        return new DatabaseSource<>(
                settings,
                new DatabaseSource.Tools<>(
                        guard, DatabaseConnections.notKept(dialect()), new CheckedTexts(), Readers.NOBODY));
    }

    public static Dialect<DatabaseSettings> dialect() {
        return new Dialect<>(new PostgresSpelling(), new PostgresSessions());
    }
}
