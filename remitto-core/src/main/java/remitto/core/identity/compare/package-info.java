/** How alike two values are, in levels. */
@NullMarked
package remitto.core.identity.compare;

import org.jspecify.annotations.NullMarked;
