/** What people may ask for of their own data: a file of all of it, and to be forgotten. */
@NullMarked
package remitto.server.rights;

import org.jspecify.annotations.NullMarked;
