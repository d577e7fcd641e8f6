/** What would happen: one record followed or tried, changes tried on all, golden examples. */
@NullMarked
package remitto.server.rehearsal;

import org.jspecify.annotations.NullMarked;
