@NullMarked
package remitto.core.expression;

import org.jspecify.annotations.NullMarked;
