/** Expressions over the columns of a row. */
@NullMarked
package remitto.core.expression;

import org.jspecify.annotations.NullMarked;
