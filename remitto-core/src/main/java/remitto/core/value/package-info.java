@NullMarked
package remitto.core.value;

import org.jspecify.annotations.NullMarked;
