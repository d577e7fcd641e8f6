package remitto.server.people.view;

import java.util.List;
import java.util.Set;
import remitto.core.dataset.ColumnRole;
import remitto.server.people.EntityType;

/** Columns that others add to what a dataset over people can carry. */
public interface PersonColumns {
    /**
     * @param value an expression over {@code p}, a row of {@code person}
     * @param role of the column in a dataset, until somebody says otherwise
     * @param from attributes it is made of; where one is sensitive, so is this
     */
    record AddedColumn(String name, String value, ColumnRole role, Set<String> from) {}

    List<AddedColumn> columns(EntityType entityType);
}
