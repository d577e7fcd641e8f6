/** Tables of a database as a destination. */
@NullMarked
package remitto.connect.table;

import org.jspecify.annotations.NullMarked;
