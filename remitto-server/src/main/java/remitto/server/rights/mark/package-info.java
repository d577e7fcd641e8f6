/** What stays of people who were erased, by which all that comes in is told apart. */
@NullMarked
package remitto.server.rights.mark;

import org.jspecify.annotations.NullMarked;
