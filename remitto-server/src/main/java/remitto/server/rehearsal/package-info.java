/** What would happen: one record followed or tried, changes tried on all, pinned examples. */
@NullMarked
package remitto.server.rehearsal;

import org.jspecify.annotations.NullMarked;
