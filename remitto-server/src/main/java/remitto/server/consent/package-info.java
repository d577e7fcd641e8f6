/** What people agreed to and took back, by whatever way it came in, and whom nothing is sent to. */
@NullMarked
package remitto.server.consent;

import org.jspecify.annotations.NullMarked;
