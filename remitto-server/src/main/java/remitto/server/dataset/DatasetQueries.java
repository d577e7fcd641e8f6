package remitto.server.dataset;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.springframework.stereotype.Component;
import remitto.connect.source.Preview;
import remitto.connect.source.Reading;
import remitto.connect.source.RowFilter;
import remitto.connect.source.RowSource;
import remitto.connect.source.SourceQuery;
import remitto.core.dataset.Column;
import remitto.core.dataset.ColumnRole;
import remitto.core.dataset.ColumnType;
import remitto.core.dataset.Columns;
import remitto.core.dataset.Row;
import remitto.server.platform.Personal;
import remitto.server.platform.Problem;
import remitto.server.source.Sources;

/** Questions asked of a source about a dataset: its first rows, its key, single records. */
@Component
public class DatasetQueries {
    static final int PREVIEW_ROWS = 100;
    private static final int EXAMPLES = 5;
    private static final Duration PREVIEW_TIME = Duration.ofSeconds(20);
    private static final Duration COUNT_TIME = Duration.ofMinutes(2);

    private final Sources sources;
    private final Clock clock;

    DatasetQueries(Sources sources, Clock clock) {
        this.sources = sources;
        this.clock = clock;
    }

    Preview preview(long sourceId, SourceQuery query) {
        return sources.rows(sourceId).preview(query, PREVIEW_ROWS, PREVIEW_TIME);
    }

    /** Lets the source take in a definition's query by itself, without running it. */
    void parse(long sourceId, DatasetDefinition definition) {
        sources.rows(sourceId).describe(definition.query().asked(), PREVIEW_TIME);
    }

    /**
     * Empty and duplicate keys of a definition.
     *
     * @param blanks rows of which a key cell is empty or blank
     * @param doubled keys that more than one row has
     */
    record KeyCheck(
            long rows, long blanks, long doubled, @Personal List<String> examples) {}

    KeyCheck checkKey(long sourceId, SourceQuery query, List<String> keys) {
        if (keys.isEmpty()) {
            throw Problem.invalid("Choose at least one key column.");
        }
        RowSource.KeyFindings found = sources.rows(sourceId).checkKey(query, keys, EXAMPLES, COUNT_TIME);
        return new KeyCheck(
                found.rows(),
                found.blanks(),
                found.doubled(),
                found.examples().stream().map(cells -> String.join(", ", cells)).toList());
    }

    /** How many rows there are, and how new the newest is, without reading one. */
    public Datasets.Freshness freshness(long sourceId, DatasetDefinition definition) {
        Optional<Column> updated = definition.columns().stream()
                .filter(column -> column.role() == ColumnRole.UPDATED_AT)
                .findFirst();
        RowSource.Extent extent =
                sources.rows(sourceId).probe(definition.query().asked(), updated.map(Column::name), COUNT_TIME);
        Optional<Instant> newest =
                updated.flatMap(column -> extent.newest().flatMap(text -> instant(column.type(), text)));
        return new Datasets.Freshness(newest, extent.rows(), clock.instant());
    }

    /** What tells whether rows may have changed since it was asked last. */
    public RowSource.Mark mark(long sourceId, DatasetDefinition definition) {
        Optional<String> updated = definition.columns().stream()
                .filter(column -> column.role() == ColumnRole.UPDATED_AT)
                .map(Column::name)
                .findFirst();
        return sources.rows(sourceId).mark(definition.query().asked(), updated, COUNT_TIME);
    }

    /** The row of a key; empty if there is none. */
    public Optional<Row> row(long sourceId, DatasetDefinition definition, String key) {
        return rows(sourceId, definition, ofKeys(definition, List.of(key)), 1).stream()
                .findFirst();
    }

    /** The rows of some keys, in no order; a key without a row is missing. */
    public List<Row> byKeys(long sourceId, DatasetDefinition definition, List<String> keys) {
        return keys.isEmpty() ? List.of() : rows(sourceId, definition, ofKeys(definition, keys), 0);
    }

    private static RowFilter ofKeys(DatasetDefinition definition, List<String> keys) {
        Columns columns = new Columns(definition.columns());
        List<Column> made = columns.keys().stream()
                .map(name -> columns.find(name).orElseThrow())
                .toList();
        return new RowFilter.OfKeys(
                made, keys.stream().map(key -> List.of(key.split("\t", -1))).toList());
    }

    /** The texts of a column, the most frequent first. */
    public List<RowSource.Word> words(long sourceId, DatasetDefinition definition, String column, int limit) {
        return sources.rows(sourceId).words(definition.query().asked(), column, limit, COUNT_TIME);
    }

    /** A few rows of which any text cell contains what is looked for. */
    public List<Row> search(long sourceId, DatasetDefinition definition, String find, int limit) {
        List<String> searched = definition.columns().stream()
                .filter(column -> column.type() == ColumnType.TEXT || column.role() == ColumnRole.KEY)
                .map(Column::name)
                .toList();
        RowFilter filter = find.isBlank() ? RowFilter.ALL : new RowFilter.Containing(searched, find.strip());
        return rows(sourceId, definition, filter, limit);
    }

    private List<Row> rows(long sourceId, DatasetDefinition definition, RowFilter filter, int limit) {
        Columns columns = new Columns(definition.columns());
        Reading reading = definition.reading(PREVIEW_TIME).only(filter).atMost(limit);
        List<Row> found = new ArrayList<>();
        sources.rows(sourceId).read(reading, cells -> found.add(Row.of(columns, cells)));
        return found;
    }

    static Optional<Instant> instant(ColumnType type, String text) {
        var value = type.read(text);
        if (value instanceof remitto.core.value.Value.Moment moment) {
            return Optional.of(moment.instant());
        }
        return value instanceof remitto.core.value.Value.Day day
                ? Optional.of(day.day().atStartOfDay(java.time.ZoneOffset.UTC).toInstant())
                : Optional.empty();
    }
}
