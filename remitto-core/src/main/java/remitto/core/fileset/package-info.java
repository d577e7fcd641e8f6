/** Files that rows are read from: which of them are read, how they are spelled, and what several of them mean. */
@NullMarked
package remitto.core.fileset;

import org.jspecify.annotations.NullMarked;
