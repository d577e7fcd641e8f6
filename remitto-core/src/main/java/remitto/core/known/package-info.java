@NullMarked
package remitto.core.known;

import org.jspecify.annotations.NullMarked;
