/** Objects and fields of a destination as it describes them, and what it can do. */
@NullMarked
package remitto.core.destination;

import org.jspecify.annotations.NullMarked;
