@NullMarked
package remitto.connect.warehouse;

import org.jspecify.annotations.NullMarked;
