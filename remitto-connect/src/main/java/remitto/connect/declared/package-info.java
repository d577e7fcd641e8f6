/** Databases of any other kind as sources: by a driver in a folder, and a dialect that is written as data. */
@NullMarked
package remitto.connect.declared;

import org.jspecify.annotations.NullMarked;
