@NullMarked
package remitto.server.platform;

import org.jspecify.annotations.NullMarked;
