/** How good a grouping is beside the truth, or beside another. */
@NullMarked
package remitto.core.identity.quality;

import org.jspecify.annotations.NullMarked;
