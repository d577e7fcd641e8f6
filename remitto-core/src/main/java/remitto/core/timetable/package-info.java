@NullMarked
package remitto.core.timetable;

import org.jspecify.annotations.NullMarked;
