/** Lineage for whoever collects it: runs and matchings as events of the OpenLineage standard, with the columns that each field is made of. */
@NullMarked
package remitto.server.lineage;

import org.jspecify.annotations.NullMarked;
