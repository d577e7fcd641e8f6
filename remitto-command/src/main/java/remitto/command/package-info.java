/** The command line: what people and build servers do with an installation from a terminal, over its public API. */
@NullMarked
package remitto.command;

import org.jspecify.annotations.NullMarked;
