/** The people as a whole, by page and by download. */
@NullMarked
package remitto.server.people.overview;

import org.jspecify.annotations.NullMarked;
