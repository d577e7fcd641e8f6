@NullMarked
package remitto.core.dataset;

import org.jspecify.annotations.NullMarked;
