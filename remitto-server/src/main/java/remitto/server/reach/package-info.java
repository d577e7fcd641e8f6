/** How many of a dataset come how far. */
@NullMarked
package remitto.server.reach;

import org.jspecify.annotations.NullMarked;
