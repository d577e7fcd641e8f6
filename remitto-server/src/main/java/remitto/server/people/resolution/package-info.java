/** Joining records into people: the runs, what they write down, and what a person put right. */
@NullMarked
package remitto.server.people.resolution;

import org.jspecify.annotations.NullMarked;
