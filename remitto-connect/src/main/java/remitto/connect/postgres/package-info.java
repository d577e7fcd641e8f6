/** PostgreSQL: signed in to by typed settings, for sources and destinations alike, and its dialect as a source. */
@NullMarked
package remitto.connect.postgres;

import org.jspecify.annotations.NullMarked;
