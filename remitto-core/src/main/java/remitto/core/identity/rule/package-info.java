/** The rules by which records are joined. */
@NullMarked
package remitto.core.identity.rule;

import org.jspecify.annotations.NullMarked;
