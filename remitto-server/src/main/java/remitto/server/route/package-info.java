/** Routes in versions, bound to what they run on. */
@NullMarked
package remitto.server.route;

import org.jspecify.annotations.NullMarked;
