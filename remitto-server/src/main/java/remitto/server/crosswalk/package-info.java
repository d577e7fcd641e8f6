/** Tables that say what a word is called elsewhere, kept and versioned here. */
@NullMarked
package remitto.server.crosswalk;

import org.jspecify.annotations.NullMarked;
