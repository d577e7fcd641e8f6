/** Databases as sources: what is asked of any of them, spelled in the dialect of each. */
@NullMarked
package remitto.connect.database;

import org.jspecify.annotations.NullMarked;
