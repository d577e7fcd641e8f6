package remitto.connect.source;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.BinaryOperator;
import remitto.core.dataset.ColumnType;

/**
 * Columns and first rows of a definition.
 *
 * The first rows of a query.
 *
 * @param millis time until the last of these rows was read
 * @param cut true when the query holds more rows than these
 */
public record Preview(List<PreviewColumn> columns, List<List<Optional<String>>> rows, long millis, boolean cut) {
    /**
     * The same with cells as somebody is shown them.
     *
     * @param cell gives what is shown of a column's cell
     */
    public Preview shown(BinaryOperator<String> cell) {
        List<List<Optional<String>>> shown = new ArrayList<>();
        for (List<Optional<String>> row : rows) {
            List<Optional<String>> cells = new ArrayList<>();
            for (int i = 0; i < row.size(); i++) {
                String column = columns.get(i).name();
                cells.add(row.get(i).map(value -> cell.apply(column, value)));
            }
            shown.add(cells);
        }
        return new Preview(columns, shown, millis, cut);
    }

    /** A column of a preview. */
    public record PreviewColumn(String name, ColumnType type, String sourceType) {}
}
