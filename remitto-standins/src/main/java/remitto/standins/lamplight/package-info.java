@NullMarked
package remitto.standins.lamplight;

import org.jspecify.annotations.NullMarked;
