package remitto.connect.declared;

import remitto.connect.database.DatabaseSettings;
import remitto.connect.database.Dialect;

/**
 * A dialect that is ready to be read by.
 *
 * @param name as addresses of sources say it
 * @param title what the database is called
 * @param port that its servers usually listen on
 * @param tls whether it declares encrypted connections
 */
public record DeclaredDialect(String name, String title, int port, boolean tls, Dialect<DatabaseSettings> dialect) {}
