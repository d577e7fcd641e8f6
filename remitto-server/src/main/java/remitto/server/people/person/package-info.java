/** One person: attributes, keys, what is kept and what was sent. */
@NullMarked
package remitto.server.people.person;

import org.jspecify.annotations.NullMarked;
