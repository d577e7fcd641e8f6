/** Files of rows: unpacked, taken apart into records with the line each begins at, and guessed at by looking. */
@NullMarked
package remitto.connect.rowfile;

import org.jspecify.annotations.NullMarked;
