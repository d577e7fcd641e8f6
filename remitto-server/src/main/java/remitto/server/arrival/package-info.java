/** What comes in, by whatever way: calls, files and reads, each with what became of it. */
@NullMarked
package remitto.server.arrival;

import org.jspecify.annotations.NullMarked;
