/** Shapers: small steps that make a value fit for where it goes. */
@NullMarked
package remitto.core.shaper;

import org.jspecify.annotations.NullMarked;
