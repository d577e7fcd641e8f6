/** The home page. */
@NullMarked
package remitto.server.overview;

import org.jspecify.annotations.NullMarked;
