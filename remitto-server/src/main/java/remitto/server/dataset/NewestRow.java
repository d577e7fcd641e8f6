package remitto.server.dataset;

import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import remitto.core.dataset.Column;
import remitto.core.dataset.ColumnRole;

/**
 * Notes, while a dataset is read from end to end, how new its newest row is. Cells of one read are spelled alike, so that the latest is the
 * last by its text; only that one is taken apart.
 */
public final class NewestRow {
    private final Optional<Column> column;
    private final int at;
    private String newest = "";

    public NewestRow(DatasetDefinition definition) {
        List<Column> columns = definition.columns();
        column = columns.stream()
                .filter(one -> one.role() == ColumnRole.UPDATED_AT)
                .findFirst();
        at = column.map(columns::indexOf).orElse(-1);
    }

    /** @param cells of a row, in the order of the columns */
    public void see(@Nullable String[] cells) {
        if (at >= 0) {
            String cell = cells[at];
            if (cell != null && cell.compareTo(newest) > 0) {
                newest = cell;
            }
        }
    }

    /** @param rows that were read, all there are */
    public Datasets.Freshness freshness(long rows, Instant now) {
        return new Datasets.Freshness(
                newest.isEmpty() ? Optional.empty() : column.flatMap(one -> DatasetQueries.instant(one.type(), newest)),
                rows,
                now);
    }
}
