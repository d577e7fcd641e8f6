/** The server as a whole. */
@NullMarked
package remitto.server;

import org.jspecify.annotations.NullMarked;
