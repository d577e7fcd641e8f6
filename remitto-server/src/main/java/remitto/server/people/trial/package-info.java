/** What other rules would do, how good they are, and what answers teach. */
@NullMarked
package remitto.server.people.trial;

import org.jspecify.annotations.NullMarked;
