/** Files that a receiver takes: what they hold, how they are spelled, and what they are called. */
@NullMarked
package remitto.core.file;

import org.jspecify.annotations.NullMarked;
