/** Sources, and the rights that their logins have. */
@NullMarked
package remitto.server.source;

import org.jspecify.annotations.NullMarked;
