@NullMarked
package remitto.server.journal;

import org.jspecify.annotations.NullMarked;
