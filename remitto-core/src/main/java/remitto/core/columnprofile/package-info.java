/** What the columns of a dataset hold: how many cells are empty, how many values there are, which are the commonest, how they are spread. */
@NullMarked
package remitto.core.columnprofile;

import org.jspecify.annotations.NullMarked;
