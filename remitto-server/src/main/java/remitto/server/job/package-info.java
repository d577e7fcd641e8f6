/** Work that takes longer than a request may: begun by one, looked at by others, ended by whoever asked or when nobody looks any more. */
@NullMarked
package remitto.server.job;

import org.jspecify.annotations.NullMarked;
