/** What is said of a run. */
@NullMarked
package remitto.core.run;

import org.jspecify.annotations.NullMarked;
