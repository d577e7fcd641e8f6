/** People: records of several datasets joined into persons, explained and corrected. */
@NullMarked
package remitto.server.people;

import org.jspecify.annotations.NullMarked;
