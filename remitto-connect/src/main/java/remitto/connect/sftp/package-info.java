/** Sessions with SFTP servers, whoever reads or writes there. */
@NullMarked
package remitto.connect.sftp;

import org.jspecify.annotations.NullMarked;
