/** Asking somebody who may approve. */
@NullMarked
package remitto.server.approval;

import org.jspecify.annotations.NullMarked;
