package remitto.server.people;

import java.util.List;
import remitto.core.dataset.ColumnRole;

/** Columns that others add to what a dataset over people can carry. */
public interface PersonColumns {
    /**
     * @param value an expression over {@code p}, a row of {@code person}
     * @param role of the column in a dataset, until somebody says otherwise
     */
    record AddedColumn(String name, String value, ColumnRole role) {}

    List<AddedColumn> columns(About about);
}
