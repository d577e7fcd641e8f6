/** What profiles of columns may hold of one person, removed with that person. */
@NullMarked
package remitto.server.expectation.erasure;

import org.jspecify.annotations.NullMarked;
