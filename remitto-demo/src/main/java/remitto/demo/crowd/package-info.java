/** Made-up people in any number of messages, under the spellings of several systems, with the truth of who is who. */
@NullMarked
package remitto.demo.crowd;

import org.jspecify.annotations.NullMarked;
