package remitto.connect.warehouse;

import java.util.List;
import java.util.Optional;
import remitto.core.dataset.ColumnType;

/**
 * The first rows of a query.
 *
 * @param millis time until the last of these rows was read
 * @param cut true when the query holds more rows than these
 */
public record Preview(List<PreviewColumn> columns, List<List<Optional<String>>> rows, long millis, boolean cut) {
    public record PreviewColumn(String name, ColumnType type, String sourceType) {}
}
