/** From rows to a manifest: read, passed over, shaped, matched, judged, written down. */
@NullMarked
package remitto.server.planning;

import org.jspecify.annotations.NullMarked;
