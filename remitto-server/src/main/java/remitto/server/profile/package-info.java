/** Profiles of destinations: their versions, what is in service, and what is wrong with one that is being written. */
@NullMarked
package remitto.server.profile;

import org.jspecify.annotations.NullMarked;
