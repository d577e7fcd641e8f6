@NullMarked
package remitto.core.fieldrule;

import org.jspecify.annotations.NullMarked;
