/** Audiences: their versions, who is in them and since when, and why. */
@NullMarked
package remitto.server.audience;

import org.jspecify.annotations.NullMarked;
