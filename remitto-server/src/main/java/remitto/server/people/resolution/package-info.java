/** Matching records into people: the runs, what they write down, and what people corrected. */
@NullMarked
package remitto.server.people.resolution;

import org.jspecify.annotations.NullMarked;
