/** Values worked out over people's events, kept for every person. */
@NullMarked
package remitto.server.measure;

import org.jspecify.annotations.NullMarked;
