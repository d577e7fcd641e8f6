/** What is written down of runs: their states, sums, progress and history, and what holds them up. */
@NullMarked
package remitto.server.run;

import org.jspecify.annotations.NullMarked;
