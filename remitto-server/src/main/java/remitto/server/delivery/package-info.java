/** From a manifest to a destination: calls, their outcomes, reading back, files, and known state after them. */
@NullMarked
package remitto.server.delivery;

import org.jspecify.annotations.NullMarked;
