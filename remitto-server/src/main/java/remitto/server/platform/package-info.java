/** What every capability stands on: lanes of database connections, JSON, clocks, pages. */
@NullMarked
package remitto.server.platform;

import org.jspecify.annotations.NullMarked;
