/** Manifests as they are kept: their lines, how values are spelled in them, and views of them. */
@NullMarked
package remitto.server.manifest;

import org.jspecify.annotations.NullMarked;
