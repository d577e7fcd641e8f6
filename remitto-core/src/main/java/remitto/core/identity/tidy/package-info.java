@NullMarked
package remitto.core.identity.tidy;

import org.jspecify.annotations.NullMarked;
