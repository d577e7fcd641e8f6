@NullMarked
package remitto.demo.warehouse;

import org.jspecify.annotations.NullMarked;
