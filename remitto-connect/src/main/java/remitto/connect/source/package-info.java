/** What rows are read from, of whatever kind: looked at, described, read and asked, in the same words. */
@NullMarked
package remitto.connect.source;

import org.jspecify.annotations.NullMarked;
