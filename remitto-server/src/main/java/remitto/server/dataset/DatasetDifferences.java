package remitto.server.dataset;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import remitto.core.dataset.Column;

/** What two versions of a dataset say differently. */
final class DatasetDifferences {
    private DatasetDifferences() {}

    /** A column that came, went, or has another type or role. */
    record ColumnDifference(String name, Optional<Column> before, Optional<Column> after) {}

    /**
     * A field of two objects that differs.
     *
     * @param before the query's text, as {@code after}, the same when only columns differ
     */
    record Differing(String before, String after, List<ColumnDifference> columns) {}

    static Differing between(DatasetDefinition before, DatasetDefinition after) {
        Map<String, Column> old = byName(before);
        Map<String, Column> fresh = byName(after);
        Set<String> names = new LinkedHashSet<>(old.keySet());
        names.addAll(fresh.keySet());
        List<ColumnDifference> columns = new ArrayList<>();
        for (String name : names) {
            Optional<Column> was = Optional.ofNullable(old.get(name));
            Optional<Column> is = Optional.ofNullable(fresh.get(name));
            if (!was.equals(is)) {
                columns.add(new ColumnDifference(name, was, is));
            }
        }
        return new Differing(before.query().text(), after.query().text(), columns);
    }

    private static Map<String, Column> byName(DatasetDefinition definition) {
        Map<String, Column> columns = new LinkedHashMap<>();
        definition.columns().forEach(column -> columns.put(column.name(), column));
        return columns;
    }
}
