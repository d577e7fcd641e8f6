@NullMarked
package remitto.server.route;

import org.jspecify.annotations.NullMarked;
