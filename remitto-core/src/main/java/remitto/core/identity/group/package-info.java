/** From links to persons, and which number each keeps. */
@NullMarked
package remitto.core.identity.group;

import org.jspecify.annotations.NullMarked;
