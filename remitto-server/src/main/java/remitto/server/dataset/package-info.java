@NullMarked
package remitto.server.dataset;

import org.jspecify.annotations.NullMarked;
