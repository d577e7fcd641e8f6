/** What routes know of their records: who they are, how they stand, and what was acknowledged. */
@NullMarked
package remitto.server.known;

import org.jspecify.annotations.NullMarked;
