/** What somebody was editing and has not saved: kept per account, seen by nobody else, without effect until it is saved. */
@NullMarked
package remitto.server.draft;

import org.jspecify.annotations.NullMarked;
