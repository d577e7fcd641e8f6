/** Conditions as SQL for PostgreSQL, over tables that are named to it. */
@NullMarked
package remitto.core.audience.sql;

import org.jspecify.annotations.NullMarked;
