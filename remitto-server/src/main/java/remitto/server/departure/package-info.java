/** The timetable at work. */
@NullMarked
package remitto.server.departure;

import org.jspecify.annotations.NullMarked;
