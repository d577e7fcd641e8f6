/** Slipway: a place where files are left by SFTP, with pages to look at them. */
@NullMarked
package remitto.standins.slipway;

import org.jspecify.annotations.NullMarked;
