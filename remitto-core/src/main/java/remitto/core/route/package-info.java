/** Routes: what they are, compiled to shape rows, with first drafts and proposals of rules. */
@NullMarked
package remitto.core.route;

import org.jspecify.annotations.NullMarked;
