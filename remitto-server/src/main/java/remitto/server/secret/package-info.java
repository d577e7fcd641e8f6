/** Secrets sealed, and the keys that seal and hash. */
@NullMarked
package remitto.server.secret;

import org.jspecify.annotations.NullMarked;
