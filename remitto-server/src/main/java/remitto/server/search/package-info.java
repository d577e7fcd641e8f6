/** Finding things by typing: a record by its id in a tool or by the key of its row, a field by its name, a manifest by its number. */
@NullMarked
package remitto.server.search;

import org.jspecify.annotations.NullMarked;
