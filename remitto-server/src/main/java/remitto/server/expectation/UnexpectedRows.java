package remitto.server.expectation;

import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.stream.IntStream;
import org.springframework.stereotype.Component;
import remitto.core.dataset.Column;
import remitto.core.dataset.ColumnRole;
import remitto.core.dataset.Columns;
import remitto.core.dataset.Row;
import remitto.core.expectation.Expectation;
import remitto.core.expectation.ExpectationFaults;
import remitto.core.expectation.HeldRows;
import remitto.core.expectation.Response;
import remitto.server.dataset.DatasetDefinition;
import remitto.server.dataset.Datasets;
import remitto.server.masking.PersonalValues;
import remitto.server.platform.Personal;
import remitto.server.platform.Problem;
import remitto.server.source.Sources;

/** Finds rows that do not meet an expectation, by reading the source until there are enough of them. */
@Component
class UnexpectedRows {
    private static final int SHOWN = 20;
    private static final Duration TIME = Duration.ofMinutes(2);

    private final Sources sources;
    private final ReadWatches watches;
    private final PersonalValues values;

    UnexpectedRows(Sources sources, ReadWatches watches, PersonalValues values) {
        this.sources = sources;
        this.watches = watches;
        this.values = values;
    }

    /**
     * Rows that do not meet an expectation.
     *
     * @param columns names of the key columns and of the column that the expectation is about
     * @param rows of each the cells of these columns; an empty cell is absent
     * @param read rows that were read until then
     * @param whole whether the dataset was read to its end; otherwise there may be more
     */
    record RowsFound(List<String> columns, @Personal List<List<Optional<String>>> rows, long read, boolean whole) {}

    /** @throws Problem if there is something wrong with the expectation, or if it is about the dataset as a whole */
    RowsFound of(Datasets.Dataset dataset, Expectation expectation) {
        DatasetDefinition definition = dataset.definition();
        Columns columns = new Columns(definition.columns());
        List<String> faults = ExpectationFaults.of(List.of(expectation), columns);
        if (!faults.isEmpty()) {
            throw Problem.invalid(String.join(" ", faults));
        }
        if (!expectation.demand().isAboutCells()) {
            throw Problem.invalid("This expectation is about the dataset as a whole, so that no single row breaks it.");
        }
        List<Expectation> holding =
                List.of(new Expectation(expectation.column(), expectation.demand(), Response.HOLD_ROWS));
        HeldRows broken = HeldRows.of(holding, columns, watches.shared(dataset.sourceId(), holding, definition));
        int[] shown = shown(columns, expectation.column().orElseThrow());
        List<List<Optional<String>>> rows = new ArrayList<>();
        long[] read = new long[1];
        sources.rows(dataset.sourceId()).read(definition.reading(TIME), cells -> {
            read[0]++;
            Row row = Row.of(columns, cells);
            if (broken.of(row).isPresent()) {
                rows.add(cells(columns, row, shown));
            }
            return rows.size() < SHOWN;
        });
        return new RowsFound(
                IntStream.of(shown)
                        .mapToObj(at -> columns.list().get(at).name())
                        .toList(),
                rows,
                read[0],
                rows.size() < SHOWN);
    }

    private static int[] shown(Columns columns, String column) {
        return IntStream.concat(
                        IntStream.of(columns.keyPositions()),
                        IntStream.of(columns.position(column).orElseThrow()))
                .distinct()
                .toArray();
    }

    private List<Optional<String>> cells(Columns columns, Row row, int[] shown) {
        return IntStream.of(shown)
                .mapToObj(at -> columns.list().get(at))
                .map(column -> row.cell(column.name()).map(cell -> shown(column, cell)))
                .toList();
    }

    private String shown(Column column, String cell) {
        return column.role() == ColumnRole.SENSITIVE ? values.sensitive(cell) : cell;
    }
}
