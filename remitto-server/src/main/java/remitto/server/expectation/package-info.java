/** What is expected of datasets and what their columns hold: seen at every read from end to end, kept, shown, and proposed. */
@NullMarked
package remitto.server.expectation;

import org.jspecify.annotations.NullMarked;
