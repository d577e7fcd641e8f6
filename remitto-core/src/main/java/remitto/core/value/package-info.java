/** Values, and how they are told apart and shown. */
@NullMarked
package remitto.core.value;

import org.jspecify.annotations.NullMarked;
