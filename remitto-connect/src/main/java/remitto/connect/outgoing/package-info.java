/** Calls that leave this machine, and where they may go. */
@NullMarked
package remitto.connect.outgoing;

import org.jspecify.annotations.NullMarked;
