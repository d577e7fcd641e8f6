/** Files for a receiver, put in a folder of this machine or, by SFTP, of another. */
@NullMarked
package remitto.connect.file;

import org.jspecify.annotations.NullMarked;
