@NullMarked
package remitto.core.shaper;

import org.jspecify.annotations.NullMarked;
