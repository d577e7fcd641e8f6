@NullMarked
package remitto.core.delivery;

import org.jspecify.annotations.NullMarked;
