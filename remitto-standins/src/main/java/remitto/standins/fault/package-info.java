@NullMarked
package remitto.standins.fault;

import org.jspecify.annotations.NullMarked;
