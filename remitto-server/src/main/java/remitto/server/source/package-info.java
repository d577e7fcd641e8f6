@NullMarked
package remitto.server.source;

import org.jspecify.annotations.NullMarked;
