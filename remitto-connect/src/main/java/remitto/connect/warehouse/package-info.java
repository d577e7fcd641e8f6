/** Databases that rows are read from. */
@NullMarked
package remitto.connect.warehouse;

import org.jspecify.annotations.NullMarked;
