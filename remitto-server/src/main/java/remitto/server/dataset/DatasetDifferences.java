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
     * @param dropped what the first expects and the second does not, in words
     * @param expected what the second expects and the first does not
     */
    record Differing(
            String before, String after, List<ColumnDifference> columns, List<String> dropped, List<String> expected) {}

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
        List<String> expectedBefore = words(before);
        List<String> expectedAfter = words(after);
        return new Differing(
                before.query().text(),
                after.query().text(),
                columns,
                expectedBefore.stream()
                        .filter(one -> !expectedAfter.contains(one))
                        .toList(),
                expectedAfter.stream()
                        .filter(one -> !expectedBefore.contains(one))
                        .toList());
    }

    private static List<String> words(DatasetDefinition definition) {
        return definition.expectations().stream()
                .map(one -> one.sentence()
                        + switch (one.response()) {
                            case TELL -> "";
                            case HOLD_ROWS -> " (holds rows)";
                            case STOP_ROUTES -> " (stops routes)";
                        })
                .toList();
    }

    private static Map<String, Column> byName(DatasetDefinition definition) {
        Map<String, Column> columns = new LinkedHashMap<>();
        definition.columns().forEach(column -> columns.put(column.name(), column));
        return columns;
    }
}
