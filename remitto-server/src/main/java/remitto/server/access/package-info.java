@NullMarked
package remitto.server.access;

import org.jspecify.annotations.NullMarked;
