@NullMarked
package remitto.standins.purser;

import org.jspecify.annotations.NullMarked;
