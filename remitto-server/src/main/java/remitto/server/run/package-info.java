@NullMarked
package remitto.server.run;

import org.jspecify.annotations.NullMarked;
