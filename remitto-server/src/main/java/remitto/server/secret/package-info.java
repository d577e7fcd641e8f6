@NullMarked
package remitto.server.secret;

import org.jspecify.annotations.NullMarked;
