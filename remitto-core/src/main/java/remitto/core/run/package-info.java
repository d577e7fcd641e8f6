/** A run as a whole: its states, its sums, and who may decide what about it. */
@NullMarked
package remitto.core.run;

import org.jspecify.annotations.NullMarked;
