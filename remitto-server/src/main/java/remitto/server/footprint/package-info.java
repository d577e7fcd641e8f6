/** Everything that routes keep of one person. */
@NullMarked
package remitto.server.footprint;

import org.jspecify.annotations.NullMarked;
