@NullMarked
package remitto.connect.destination;

import org.jspecify.annotations.NullMarked;
