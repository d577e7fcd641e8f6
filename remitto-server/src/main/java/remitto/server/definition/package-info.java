/** Definitions as files: read and written as YAML under stable names, compared with what is here, and applied as a whole. */
@NullMarked
package remitto.server.definition;

import org.jspecify.annotations.NullMarked;
