@NullMarked
package remitto.standins.foghorn;

import org.jspecify.annotations.NullMarked;
