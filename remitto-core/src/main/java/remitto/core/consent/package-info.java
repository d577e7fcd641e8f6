/** Addresses as consents and suppressions know them. */
@NullMarked
package remitto.core.consent;

import org.jspecify.annotations.NullMarked;
