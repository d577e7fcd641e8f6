/** The life of a run: who begins it, owns it, takes it over, decides about it and ends it. */
@NullMarked
package remitto.server.run.life;

import org.jspecify.annotations.NullMarked;
