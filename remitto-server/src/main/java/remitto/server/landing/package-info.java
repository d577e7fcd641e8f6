/** Tables of ours that rows are kept in which come from no database: their names, their views, and the rows of somebody who is erased. */
@NullMarked
package remitto.server.landing;

import org.jspecify.annotations.NullMarked;
