/** Which value of several records a person keeps. */
@NullMarked
package remitto.core.identity.survivorship;

import org.jspecify.annotations.NullMarked;
