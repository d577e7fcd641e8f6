@NullMarked
package remitto.core.identity.compare;

import org.jspecify.annotations.NullMarked;
