@NullMarked
package remitto.standins;

import org.jspecify.annotations.NullMarked;
