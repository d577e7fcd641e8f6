/** What a field receives, and when it is written. */
@NullMarked
package remitto.core.fieldrule;

import org.jspecify.annotations.NullMarked;
