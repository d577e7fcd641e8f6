/** Owners and tags of what stands in lists: for finding and sorting, without effect on anything. */
@NullMarked
package remitto.server.label;

import org.jspecify.annotations.NullMarked;
