/** Why a field received what it received. */
@NullMarked
package remitto.server.explain;

import org.jspecify.annotations.NullMarked;
