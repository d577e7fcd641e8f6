/** What a monitor sees of an installation: whether it is well, its metrics, and which request or run a line of the log belongs to. */
@NullMarked
package remitto.server.observability;

import org.jspecify.annotations.NullMarked;
