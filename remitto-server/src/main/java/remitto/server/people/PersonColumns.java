package remitto.server.people;

import java.util.List;

/** Columns that others add to what a dataset over people can carry. */
public interface PersonColumns {
    /**
     * @param value an expression over {@code p}, a row of {@code person}
     */
    record AddedColumn(String name, String value) {}

    List<AddedColumn> columns(About about);
}
