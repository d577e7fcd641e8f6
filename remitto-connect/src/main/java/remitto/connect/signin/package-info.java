/** How calls are let in by a tool: keys, tokens, and sign-ins that a person gives away. */
@NullMarked
package remitto.connect.signin;

import org.jspecify.annotations.NullMarked;
