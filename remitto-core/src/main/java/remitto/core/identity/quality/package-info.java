@NullMarked
package remitto.core.identity.quality;

import org.jspecify.annotations.NullMarked;
