@NullMarked
package remitto.core.identity;

import org.jspecify.annotations.NullMarked;
