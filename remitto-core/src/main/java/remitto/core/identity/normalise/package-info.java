/** Names, dates, addresses and phones brought into one spelling before they are compared. */
@NullMarked
package remitto.core.identity.normalise;

import org.jspecify.annotations.NullMarked;
