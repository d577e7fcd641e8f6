/** Who meets a condition: the conditions, what they are judged on, and why a person meets one or not. */
@NullMarked
package remitto.core.audience;

import org.jspecify.annotations.NullMarked;
