/** Datasets in versions, with preview, key check, freshness and look-ups. */
@NullMarked
package remitto.server.dataset;

import org.jspecify.annotations.NullMarked;
