/** Rows that come in as text and are kept in tables of ours: the columns that are kept, how their values are spelled, and what a row becomes. */
@NullMarked
package remitto.core.landed;

import org.jspecify.annotations.NullMarked;
