@NullMarked
package remitto.server;

import org.jspecify.annotations.NullMarked;
