/** Comparing all that is known with all that is there. */
@NullMarked
package remitto.server.stocktake;

import org.jspecify.annotations.NullMarked;
