@NullMarked
package remitto.core.identity.group;

import org.jspecify.annotations.NullMarked;
