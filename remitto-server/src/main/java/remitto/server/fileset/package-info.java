/** Files that rows are read from: what they mean, which were read, the tables that their rows are kept in, and the rows that are held. */
@NullMarked
package remitto.server.fileset;

import org.jspecify.annotations.NullMarked;
