@NullMarked
package remitto.standins.store;

import org.jspecify.annotations.NullMarked;
