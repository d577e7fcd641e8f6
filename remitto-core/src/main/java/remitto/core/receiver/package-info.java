/** Calls that other tools make: how they are told to be genuine, what of their bodies is kept, and what several of them mean. */
@NullMarked
package remitto.core.receiver;

import org.jspecify.annotations.NullMarked;
