/** Who acts, by the id of their account, and what they may do and see. Knows nothing of any other capability. */
@NullMarked
package remitto.server.permission;

import org.jspecify.annotations.NullMarked;
