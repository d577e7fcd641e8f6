/** Who writes what where: the fields of destination objects with the rules that write them, and the way back. */
@NullMarked
package remitto.server.fieldbook;

import org.jspecify.annotations.NullMarked;
