/** Identity resolution: records brought in, compared, linked, and resolved into persons. */
@NullMarked
package remitto.core.identity;

import org.jspecify.annotations.NullMarked;
