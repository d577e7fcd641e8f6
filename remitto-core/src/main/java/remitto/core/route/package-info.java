@NullMarked
package remitto.core.route;

import org.jspecify.annotations.NullMarked;
