/** Looks whether data has changed, and begins what waits for that. */
@NullMarked
package remitto.server.probe;

import org.jspecify.annotations.NullMarked;
