/** What a destination is to the product: found, listed, written, handed files. */
@NullMarked
package remitto.connect.destination;

import org.jspecify.annotations.NullMarked;
