@NullMarked
package remitto.core.identity.survivorship;

import org.jspecify.annotations.NullMarked;
