@NullMarked
package remitto.connect.profile;

import org.jspecify.annotations.NullMarked;
