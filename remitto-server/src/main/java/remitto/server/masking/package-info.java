/** Personal values as they are shown to whoever may not see them: their kind, their last characters, and a mark of equality. */
@NullMarked
package remitto.server.masking;

import org.jspecify.annotations.NullMarked;
