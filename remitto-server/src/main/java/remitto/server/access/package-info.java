/** Letting people in: sign-in, sessions, users. */
@NullMarked
package remitto.server.access;

import org.jspecify.annotations.NullMarked;
