/** Destinations: connected, described, paced, and what their trouble holds up. */
@NullMarked
package remitto.server.destination;

import org.jspecify.annotations.NullMarked;
