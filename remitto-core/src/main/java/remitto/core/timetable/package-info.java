/** When a route departs. */
@NullMarked
package remitto.core.timetable;

import org.jspecify.annotations.NullMarked;
