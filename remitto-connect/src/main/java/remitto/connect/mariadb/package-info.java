/** MariaDB as a source: its dialect, and sessions that only read. */
@NullMarked
package remitto.connect.mariadb;

import org.jspecify.annotations.NullMarked;
