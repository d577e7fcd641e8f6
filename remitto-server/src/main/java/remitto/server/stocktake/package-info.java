@NullMarked
package remitto.server.stocktake;

import org.jspecify.annotations.NullMarked;
