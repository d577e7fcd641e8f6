/** Taking away what people made: checked for who uses it, and kept readable for history. */
@NullMarked
package remitto.server.archive;

import org.jspecify.annotations.NullMarked;
