/** What tests of the server stand on: the real application on a real PostgreSQL, without a browser and without stand-ins. */
@NullMarked
package remitto.server.harness;

import org.jspecify.annotations.NullMarked;
