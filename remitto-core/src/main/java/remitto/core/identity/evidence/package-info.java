@NullMarked
package remitto.core.identity.evidence;

import org.jspecify.annotations.NullMarked;
