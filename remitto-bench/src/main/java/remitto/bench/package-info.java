@NullMarked
package remitto.bench;

import org.jspecify.annotations.NullMarked;
