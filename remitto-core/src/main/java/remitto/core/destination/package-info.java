@NullMarked
package remitto.core.destination;

import org.jspecify.annotations.NullMarked;
