/** Who did what and when, sealed in a chain. */
@NullMarked
package remitto.server.journal;

import org.jspecify.annotations.NullMarked;
