/** What follows from the answer to a call. */
@NullMarked
package remitto.core.delivery;

import org.jspecify.annotations.NullMarked;
