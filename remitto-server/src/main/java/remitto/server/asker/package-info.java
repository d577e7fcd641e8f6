/** Whoever sent a request and waits for its answer. What is asked of a database for them ends when they have gone. */
@NullMarked
package remitto.server.asker;

import org.jspecify.annotations.NullMarked;
