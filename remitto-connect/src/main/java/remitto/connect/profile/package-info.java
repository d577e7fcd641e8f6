/** Destinations that are described by a profile and spoken to over HTTP. */
@NullMarked
package remitto.connect.profile;

import org.jspecify.annotations.NullMarked;
