/** Texts in YAML that somebody writes by hand: read within bounds, and where their parts stand. */
@NullMarked
package remitto.connect.yaml;

import org.jspecify.annotations.NullMarked;
