/** Who may let pass what a guard stopped. */
@NullMarked
package remitto.core.approval;

import org.jspecify.annotations.NullMarked;
