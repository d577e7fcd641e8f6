/** Limits that a manifest has to keep before anything goes. */
@NullMarked
package remitto.core.guard;

import org.jspecify.annotations.NullMarked;
