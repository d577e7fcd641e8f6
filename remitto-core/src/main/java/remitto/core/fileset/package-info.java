/** Files that rows are read from: which of them are read, how they are spelled, what several of them mean, and what a row becomes. */
@NullMarked
package remitto.core.fileset;

import org.jspecify.annotations.NullMarked;
