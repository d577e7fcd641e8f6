/** The rules and settings by which records are joined, in versions. */
@NullMarked
package remitto.server.people.rule;

import org.jspecify.annotations.NullMarked;
