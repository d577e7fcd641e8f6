/** Calls that other tools make: their addresses and secrets, keeping them before they are answered, and the tables they are laid out in. */
@NullMarked
package remitto.server.receiver;

import org.jspecify.annotations.NullMarked;
