/** Datasets: columns with types and roles, rows, and checks of their keys. */
@NullMarked
package remitto.core.dataset;

import org.jspecify.annotations.NullMarked;
