@NullMarked
package remitto.connect.outgoing;

import org.jspecify.annotations.NullMarked;
