package remitto.server.source;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import remitto.connect.source.LookUp;
import remitto.connect.source.SourceQuery;
import remitto.core.dataset.Column;
import remitto.core.dataset.ColumnRole;
import remitto.core.dataset.ColumnType;

/** A table that every kind of source is asked about in its contract test. @param rows cells as any source spells them */
record SourceTable(String name, List<Column> columns, List<List<@Nullable String>> rows) {
    /** @param columns each as {@code name type} */
    static SourceTable of(String name, String... columns) {
        return new SourceTable(
                name,
                Arrays.stream(columns)
                        .map(text -> new Column(
                                text.substring(0, text.lastIndexOf(' ')),
                                ColumnType.valueOf(text.substring(text.lastIndexOf(' ') + 1)),
                                ColumnRole.ATTRIBUTE))
                        .toList(),
                new ArrayList<>());
    }

    SourceTable row(@Nullable String... cells) {
        rows.add(Arrays.asList(cells));
        return this;
    }

    List<String> names() {
        return columns.stream().map(Column::name).toList();
    }

    SourceQuery query(String schema) {
        return new SourceQuery.OfTable(schema, name, names(), Optional.empty());
    }

    LookUp.Dataset dataset(String schema) {
        return new LookUp.Dataset(query(schema), columns);
    }
}
