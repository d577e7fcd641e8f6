/** Kills processes at random moments and looks at what the destination holds afterwards. */
@NullMarked
package remitto.bench.crash;

import org.jspecify.annotations.NullMarked;
