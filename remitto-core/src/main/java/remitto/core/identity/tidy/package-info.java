/** Names, dates, addresses and phones brought into one spelling before they are compared. */
@NullMarked
package remitto.core.identity.tidy;

import org.jspecify.annotations.NullMarked;
