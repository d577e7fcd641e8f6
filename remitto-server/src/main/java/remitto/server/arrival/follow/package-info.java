/** All that comes in as one list, and its rows followed to the people, audiences and destinations that they reached. */
@NullMarked
package remitto.server.arrival.follow;

import org.jspecify.annotations.NullMarked;
