/** Files that people take away. */
@NullMarked
package remitto.server.download;

import org.jspecify.annotations.NullMarked;
