@NullMarked
package remitto.standins.postbag;

import org.jspecify.annotations.NullMarked;
