/** What agreement and disagreement say, estimated from the records themselves, and which pairs to look at. */
@NullMarked
package remitto.core.identity.evidence;

import org.jspecify.annotations.NullMarked;
