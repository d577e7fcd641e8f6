/** Connections to PostgreSQL by typed settings, for sources and destinations alike. */
@NullMarked
package remitto.connect.postgres;

import org.jspecify.annotations.NullMarked;
