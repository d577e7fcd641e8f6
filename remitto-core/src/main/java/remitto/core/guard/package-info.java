@NullMarked
package remitto.core.guard;

import org.jspecify.annotations.NullMarked;
