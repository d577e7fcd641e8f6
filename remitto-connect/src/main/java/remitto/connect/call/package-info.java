/** Bodies of calls that other tools make: what records they hold, whichever way they are written. */
@NullMarked
package remitto.connect.call;

import org.jspecify.annotations.NullMarked;
