/** What is held, and what somebody decides about it. */
@NullMarked
package remitto.server.held;

import org.jspecify.annotations.NullMarked;
