/** The reverse of a manifest that was sent. */
@NullMarked
package remitto.server.undo;

import org.jspecify.annotations.NullMarked;
