/** What the owner of a dataset expects of its rows, whether a read meets it, and what can be expected by what was read so far. */
@NullMarked
package remitto.core.expectation;

import org.jspecify.annotations.NullMarked;
