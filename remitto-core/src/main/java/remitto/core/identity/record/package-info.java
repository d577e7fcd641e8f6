/** Records as matching compares them: their attributes and values, and which belong together. */
@NullMarked
package remitto.core.identity.record;

import org.jspecify.annotations.NullMarked;
