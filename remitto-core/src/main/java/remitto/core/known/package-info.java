/** Fingerprints, and the index of what a route knows of its records. */
@NullMarked
package remitto.core.known;

import org.jspecify.annotations.NullMarked;
