@NullMarked
package remitto.server.destination;

import org.jspecify.annotations.NullMarked;
