package remitto.server.dataset;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;
import remitto.connect.warehouse.Preview;
import remitto.connect.warehouse.Warehouse;
import remitto.core.dataset.Column;
import remitto.core.dataset.ColumnRole;
import remitto.core.dataset.ColumnType;
import remitto.core.dataset.Columns;
import remitto.core.dataset.Row;
import remitto.server.platform.Personal;
import remitto.server.platform.Problem;
import remitto.server.source.Sources;

/** Questions asked of the warehouse about a dataset: its first rows, its key, single records. */
@Component
public class DatasetQueries {
    private static final Pattern WHOLE = Pattern.compile("-?\\d{1,18}");

    static final int PREVIEW_ROWS = 100;
    private static final Duration PREVIEW_TIME = Duration.ofSeconds(20);
    private static final Duration COUNT_TIME = Duration.ofMinutes(2);

    private final Sources sources;
    private final Clock clock;

    DatasetQueries(Sources sources, Clock clock) {
        this.sources = sources;
        this.clock = clock;
    }

    Preview preview(long sourceId, String sql) {
        return sources.warehouse(sourceId).preview(sql, PREVIEW_ROWS, PREVIEW_TIME);
    }

    /** Lets the warehouse parse a definition's query by itself, without running it. */
    void parse(long sourceId, DatasetDefinition definition) {
        sources.warehouse(sourceId).alone(definition.query().text(), PREVIEW_TIME);
    }

    /** @param blanks rows of which a key cell is empty or blank; @param doubled keys that more than one row has */
    record KeyCheck(
            long rows, long blanks, long doubled, @Personal List<String> examples) {}

    KeyCheck checkKey(long sourceId, String sql, List<String> keys) {
        if (keys.isEmpty()) {
            throw Problem.invalid("Choose at least one key column.");
        }
        Warehouse warehouse = sources.warehouse(sourceId);
        String query = warehouse.alone(sql, PREVIEW_TIME);
        String blank = keys.stream()
                .map(key -> "coalesce(btrim(" + quote(key) + "::text), '') = ''")
                .collect(Collectors.joining(" or "));
        String list = keys.stream().map(DatasetQueries::quote).collect(Collectors.joining(", "));
        String from = " from (" + query + "\n) as dataset ";
        String doubles =
                "select " + list + from + "where not (" + blank + ") group by " + list + " having count(*) > 1";
        long rows = warehouse.number("select count(*)" + from, COUNT_TIME);
        long blanks = warehouse.number("select count(*)" + from + "where " + blank, COUNT_TIME);
        long doubled = warehouse.number("select count(*) from (" + doubles + ") as doubles", COUNT_TIME);
        List<String> examples = new ArrayList<>();
        if (doubled > 0) {
            warehouse
                    .preview(doubles, 5, COUNT_TIME)
                    .rows()
                    .forEach(row -> examples.add(
                            row.stream().map(cell -> cell.orElse("")).collect(Collectors.joining(", "))));
        }
        return new KeyCheck(rows, blanks, doubled, examples);
    }

    Datasets.Freshness freshness(long sourceId, DatasetDefinition definition) {
        Warehouse warehouse = sources.warehouse(sourceId);
        String from = " from (" + warehouse.alone(definition.query().text(), PREVIEW_TIME) + "\n) as dataset";
        Optional<Column> updated = definition.columns().stream()
                .filter(column -> column.role() == ColumnRole.UPDATED_AT)
                .findFirst();
        long rows = warehouse.number("select count(*)" + from, COUNT_TIME);
        Optional<Instant> newest = updated.flatMap(column -> {
            var first = warehouse.preview("select max(" + quote(column.name()) + ") as newest" + from, 1, COUNT_TIME);
            return first.rows().get(0).get(0).flatMap(text -> instant(column.type(), text));
        });
        return new Datasets.Freshness(newest, rows, clock.instant());
    }

    /** The row of a key; empty if there is none. */
    public Optional<Row> row(long sourceId, DatasetDefinition definition, String key) {
        Columns columns = new Columns(definition.columns());
        String[] parts = key.split("\t", -1);
        if (parts.length != columns.keys().size()) {
            return Optional.empty();
        }
        String where =
                columns.keys().stream().map(name -> quote(name) + "::text = ?").collect(Collectors.joining(" and "));
        return rows(sourceId, definition, where, List.of(parts), 1).stream().findFirst();
    }

    /** The rows of some keys, in no order; a key without a row is missing. */
    public List<Row> byKeys(long sourceId, DatasetDefinition definition, List<String> keys) {
        Columns columns = new Columns(definition.columns());
        List<String> arguments = new ArrayList<>();
        List<String> alternatives = new ArrayList<>();
        for (String key : keys) {
            List<String> parts = List.of(key.split("\t", -1));
            if (parts.size() == columns.keys().size() && canBe(columns, parts)) {
                alternatives.add("(" + String.join(", ", places(columns)) + ")");
                arguments.addAll(parts);
            }
        }
        return alternatives.isEmpty()
                ? List.of()
                : rows(
                        sourceId,
                        definition,
                        "(" + String.join(", ", compared(columns)) + ") in (" + String.join(", ", alternatives) + ")",
                        arguments,
                        Integer.MAX_VALUE);
    }

    /** Whole numbers are compared as such, so that an index can find them. */
    private static List<String> compared(Columns columns) {
        return columns.keys().stream()
                .map(name -> isWhole(columns, name) ? quote(name) : quote(name) + "::text")
                .toList();
    }

    private static List<String> places(Columns columns) {
        return columns.keys().stream()
                .map(name -> isWhole(columns, name) ? "?::bigint" : "?")
                .toList();
    }

    private static boolean canBe(Columns columns, List<String> parts) {
        for (int i = 0; i < parts.size(); i++) {
            if (isWhole(columns, columns.keys().get(i))
                    && !WHOLE.matcher(parts.get(i)).matches()) {
                return false;
            }
        }
        return true;
    }

    private static boolean isWhole(Columns columns, String name) {
        return columns.find(name)
                .filter(column -> column.type() == ColumnType.INTEGER)
                .isPresent();
    }

    /** A text and how many rows hold it. */
    public record Word(String text, long rows) {}

    /** The texts of a column, the most frequent first. */
    public List<Word> words(long sourceId, DatasetDefinition definition, String column, int limit) {
        Warehouse warehouse = sources.warehouse(sourceId);
        String sql = "select " + quote(column) + "::text as word, count(*) as rows from ("
                + warehouse.alone(definition.query().text(), PREVIEW_TIME) + "\n) as dataset where " + quote(column)
                + " is not null group by 1 order by 2 desc, 1 limit " + limit;
        List<Word> words = new ArrayList<>();
        warehouse.read(sql, List.of("word", "rows"), List.of(), COUNT_TIME, cells -> {
            words.add(new Word(String.valueOf(cells[0]), Long.parseLong(String.valueOf(cells[1]))));
            return true;
        });
        return words;
    }

    /** A few rows of which any text cell contains what is looked for. */
    public List<Row> search(long sourceId, DatasetDefinition definition, String find, int limit) {
        Columns columns = new Columns(definition.columns());
        if (find.isBlank()) {
            return rows(sourceId, definition, "true", List.of(), limit);
        }
        List<String> searched = columns.list().stream()
                .filter(column -> column.type() == ColumnType.TEXT || column.role() == ColumnRole.KEY)
                .map(Column::name)
                .toList();
        String where =
                searched.stream().map(name -> quote(name) + "::text ilike ?").collect(Collectors.joining(" or "));
        String pattern = "%" + find.strip().replace("%", "\\%").replace("_", "\\_") + "%";
        return rows(
                sourceId,
                definition,
                where,
                searched.stream().map(name -> pattern).toList(),
                limit);
    }

    private List<Row> rows(
            long sourceId, DatasetDefinition definition, String where, List<String> arguments, int limit) {
        Columns columns = new Columns(definition.columns());
        Warehouse warehouse = sources.warehouse(sourceId);
        String sql = "select * from (" + warehouse.alone(definition.query().text(), PREVIEW_TIME)
                + "\n) as dataset where " + where + " limit " + limit;
        List<Row> found = new ArrayList<>();
        warehouse.read(
                sql,
                columns.list().stream().map(Column::name).toList(),
                arguments,
                PREVIEW_TIME,
                cells -> found.add(Row.of(columns, cells)));
        return found;
    }

    private static Optional<Instant> instant(ColumnType type, String text) {
        var value = type.read(text);
        if (value instanceof remitto.core.value.Value.Moment moment) {
            return Optional.of(moment.instant());
        }
        return value instanceof remitto.core.value.Value.Day day
                ? Optional.of(day.day().atStartOfDay(java.time.ZoneOffset.UTC).toInstant())
                : Optional.empty();
    }

    static String quote(String name) {
        return "\"" + name.replace("\"", "\"\"") + "\"";
    }
}
