/** How long each kind of data is kept, and its removal when that is over. */
@NullMarked
package remitto.server.retention;

import org.jspecify.annotations.NullMarked;
