/** By which addresses records of routes are known, so that what is kept of somebody is found without reading all that is kept. */
@NullMarked
package remitto.server.trace;

import org.jspecify.annotations.NullMarked;
