@NullMarked
package remitto.server.held;

import org.jspecify.annotations.NullMarked;
