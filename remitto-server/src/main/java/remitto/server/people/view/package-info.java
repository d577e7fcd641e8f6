/** Views in the database over people, for whoever reads them by SQL. */
@NullMarked
package remitto.server.people.view;

import org.jspecify.annotations.NullMarked;
