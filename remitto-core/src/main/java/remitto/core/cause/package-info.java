/** Why a record or a value is not sent, or why it is: every cause there is, with all that is known of it. */
@NullMarked
package remitto.core.cause;

import org.jspecify.annotations.NullMarked;
