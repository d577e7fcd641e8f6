/** The configuration file of an installation: its settings, their defaults, and what is wrong with them. */
@NullMarked
package remitto.server.installation;

import org.jspecify.annotations.NullMarked;
