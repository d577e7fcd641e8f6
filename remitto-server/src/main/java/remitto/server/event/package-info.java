/** Datasets whose rows are events of people: which they are, and reading them into tables of our own. */
@NullMarked
package remitto.server.event;

import org.jspecify.annotations.NullMarked;
