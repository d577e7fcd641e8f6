/** What becomes of a record: judged, held, left out, reversed. */
@NullMarked
package remitto.core.manifest;

import org.jspecify.annotations.NullMarked;
