/** Where records of people come from, and their intake. */
@NullMarked
package remitto.server.people.source;

import org.jspecify.annotations.NullMarked;
