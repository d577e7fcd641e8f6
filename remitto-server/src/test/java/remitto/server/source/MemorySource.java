package remitto.server.source;

import java.time.Duration;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.Set;
import java.util.TreeMap;
import java.util.function.Predicate;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import remitto.connect.source.LookUp;
import remitto.connect.source.Preview;
import remitto.connect.source.Reading;
import remitto.connect.source.RowFilter;
import remitto.connect.source.RowSink;
import remitto.connect.source.RowSource;
import remitto.connect.source.SourceProblem;
import remitto.connect.source.SourceProblem.Kind;
import remitto.connect.source.SourceQuery;
import remitto.connect.source.SourceReport;
import remitto.core.dataset.Column;
import remitto.core.dataset.ColumnType;
import remitto.core.fieldrule.DatasetLookUp;
import remitto.core.value.Value;

/** Tables in memory as a source, in the plainest way there is: every question goes over all rows. */
final class MemorySource implements RowSource {
    private final Map<String, SourceTable> tables = new LinkedHashMap<>();

    MemorySource(List<SourceTable> tables) {
        tables.forEach(table -> this.tables.put(table.name(), table));
    }

    /** Rows of some columns of a table. */
    private record Selected(List<Column> columns, List<List<@Nullable String>> rows) {
        OptionalInt find(String name) {
            for (int i = 0; i < columns.size(); i++) {
                if (columns.get(i).name().equals(name)) {
                    return OptionalInt.of(i);
                }
            }
            return OptionalInt.empty();
        }

        int place(String name) {
            return find(name)
                    .orElseThrow(() -> new SourceProblem(
                            Kind.COLUMN_GONE, "The query no longer gives a column called " + name + "."));
        }

        Optional<Value> value(List<@Nullable String> row, String name) {
            int at = place(name);
            return Optional.ofNullable(row.get(at))
                    .map(cell -> columns.get(at).type().read(cell));
        }

        Selected only(Predicate<List<@Nullable String>> wanted) {
            return new Selected(columns, rows.stream().filter(wanted).toList());
        }
    }

    private Selected select(SourceQuery query) {
        if (!(query instanceof SourceQuery.OfTable wanted)) {
            throw new SourceProblem(Kind.NOT_OFFERED, "This source takes no queries of your own.");
        }
        if (wanted.filter().isPresent()) {
            throw new SourceProblem(Kind.NOT_OFFERED, "This source takes no conditions of your own.");
        }
        SourceTable table = Optional.ofNullable(tables.get(wanted.table()))
                .orElseThrow(() -> new SourceProblem(Kind.SQL_FAULT, "There is no table " + wanted.table() + "."));
        Selected whole = new Selected(table.columns(), table.rows());
        List<Integer> at = wanted.columns().stream()
                .map(name -> whole.find(name)
                        .orElseThrow(() -> new SourceProblem(Kind.SQL_FAULT, "There is no column " + name + ".")))
                .toList();
        return new Selected(
                at.stream().map(table.columns()::get).toList(),
                table.rows().stream().map(row -> picked(row, at)).toList());
    }

    private static List<@Nullable String> picked(List<@Nullable String> row, List<Integer> at) {
        List<@Nullable String> picked = new ArrayList<>();
        at.forEach(place -> picked.add(row.get(place)));
        return picked;
    }

    @Override
    public Set<Ability> abilities() {
        return Set.of();
    }

    @Override
    public SourceReport check() {
        List<SourceReport.Table> all = tables.values().stream()
                .map(table -> new SourceReport.Table(
                        table.name(),
                        table.rows().size(),
                        true,
                        table.columns().stream()
                                .map(column -> new SourceReport.TableColumn(column.name(), lower(column.type())))
                                .toList()))
                .toList();
        return new SourceReport(
                "memory", "nobody", true, List.of(new SourceReport.Schema("", true, all)), List.of(), List.of());
    }

    private static String lower(ColumnType type) {
        return type.name().toLowerCase(Locale.ROOT);
    }

    @Override
    public List<Preview.PreviewColumn> describe(SourceQuery query, Duration time) {
        return select(query).columns().stream()
                .map(column -> new Preview.PreviewColumn(column.name(), column.type(), lower(column.type())))
                .toList();
    }

    @Override
    public Preview preview(SourceQuery query, int rows, Duration time) {
        List<List<@Nullable String>> all = select(query).rows();
        return new Preview(
                describe(query, time),
                all.stream()
                        .limit(rows)
                        .map(row -> row.stream().map(Optional::ofNullable).toList())
                        .toList(),
                0,
                all.size() > rows);
    }

    @Override
    public void read(Reading reading, RowSink sink) {
        Selected selected = select(reading.query());
        List<Integer> at = reading.columns().stream().map(selected::place).toList();
        Stream<List<@Nullable String>> rows =
                selected.only(row -> passes(selected, row, reading.filter())).rows().stream();
        hand((reading.most() == 0 ? rows : rows.limit(reading.most())).map(row -> picked(row, at)), sink);
    }

    private static void hand(Stream<List<@Nullable String>> rows, RowSink sink) {
        for (List<@Nullable String> row : rows.toList()) {
            if (!sink.row(row.toArray(new @Nullable String[0]))) {
                return;
            }
        }
    }

    private static boolean passes(Selected selected, List<@Nullable String> row, RowFilter filter) {
        if (filter instanceof RowFilter.OfKeys keys) {
            List<@Nullable String> own = picked(
                    row,
                    keys.columns().stream()
                            .map(column -> selected.place(column.name()))
                            .toList());
            return keys.keys().stream().anyMatch(own::equals);
        }
        if (filter instanceof RowFilter.Containing containing) {
            String text = containing.text().toLowerCase(Locale.ROOT);
            return containing.columns().stream()
                    .map(column -> row.get(selected.place(column)))
                    .filter(Objects::nonNull)
                    .anyMatch(cell -> cell.toLowerCase(Locale.ROOT).contains(text));
        }
        if (filter instanceof RowFilter.SinceOrWithout since) {
            return selected.value(row, since.column())
                    .map(value -> !instant(value).isBefore(since.from()))
                    .orElse(true);
        }
        return true;
    }

    private static Instant instant(Value value) {
        return value instanceof Value.Day day
                ? day.day().atStartOfDay(ZoneOffset.UTC).toInstant()
                : ((Value.Moment) value).instant();
    }

    @Override
    public KeyFindings checkKey(SourceQuery query, List<String> keys, int examples, Duration time) {
        Selected selected = select(query);
        List<Integer> at = keys.stream().map(selected::place).toList();
        Map<List<@Nullable String>, Integer> met = new LinkedHashMap<>();
        long blanks = 0;
        for (List<@Nullable String> row : selected.rows()) {
            List<@Nullable String> key = picked(row, at);
            if (key.stream().anyMatch(cell -> cell == null || cell.isBlank())) {
                blanks++;
            } else {
                met.merge(key, 1, Integer::sum);
            }
        }
        List<List<String>> doubled = met.entrySet().stream()
                .filter(one -> one.getValue() > 1)
                .map(one -> one.getKey().stream().map(String::valueOf).toList())
                .toList();
        return new KeyFindings(
                selected.rows().size(), blanks, doubled.size(), doubled.subList(0, Math.min(examples, doubled.size())));
    }

    @Override
    public Extent probe(SourceQuery query, Optional<String> updatedAt, Duration time) {
        Selected selected = select(query);
        Optional<String> newest = updatedAt.flatMap(column -> selected.rows().stream()
                .filter(row -> selected.value(row, column).isPresent())
                .max(Comparator.comparing(
                        row -> instant(selected.value(row, column).orElseThrow())))
                .map(row -> row.get(selected.place(column))));
        return new Extent(selected.rows().size(), newest);
    }

    @Override
    public List<Word> words(SourceQuery query, String column, int most, Duration time) {
        Selected selected = select(query);
        int at = selected.place(column);
        Map<String, Long> counts = new TreeMap<>();
        selected.rows().stream()
                .map(row -> row.get(at))
                .filter(Objects::nonNull)
                .forEach(cell -> counts.merge(cell, 1L, Long::sum));
        return counts.entrySet().stream()
                .map(one -> new Word(one.getKey(), one.getValue()))
                .sorted(Comparator.comparingLong(Word::rows).reversed())
                .limit(most)
                .toList();
    }

    /** A row at the end of a way, with the value it was looked for by. */
    private record Found(String key, List<@Nullable String> row) {}

    @Override
    public void lookUp(LookUp lookUp, List<String> keys, Duration time, RowSink sink) {
        DatasetLookUp way = lookUp.way();
        Selected from = select(lookUp.dataset(way.dataset()).query());
        List<Found> found = new ArrayList<>();
        for (List<@Nullable String> row : from.rows()) {
            String key = row.get(from.place(way.by()));
            if (key != null && (keys.isEmpty() || keys.contains(key))) {
                found.add(new Found(key, row));
            }
        }
        for (DatasetLookUp.Hop hop : way.hops()) {
            Selected next = select(lookUp.dataset(hop.dataset()).query());
            found = stepped(found, from.place(hop.from()), next, next.place(hop.by()));
            from = next;
        }
        Selected last = from;
        Stream<Found> left = found.stream().filter(one -> way.only().stream().allMatch(only -> meets(last, one, only)));
        hand(
                picked(left.toList(), last, lookUp).stream().map(one -> {
                    List<@Nullable String> cells = new ArrayList<>(List.of(one.key()));
                    way.given().forEach(name -> cells.add(one.row().get(last.place(name))));
                    return cells;
                }),
                sink);
    }

    private static List<Found> stepped(List<Found> found, int from, Selected next, int by) {
        List<Found> reached = new ArrayList<>();
        for (Found one : found) {
            String value = one.row().get(from);
            next.rows().stream()
                    .filter(row -> value != null && value.equals(row.get(by)))
                    .forEach(row -> reached.add(new Found(one.key(), row)));
        }
        return reached;
    }

    private static boolean meets(Selected last, Found one, DatasetLookUp.Condition only) {
        int at = last.place(only.column());
        String cell = one.row().get(at);
        if (cell == null) {
            return false;
        }
        ColumnType type = last.columns().get(at).type();
        return switch (only.comparison()) {
            case IS -> cell.equals(only.text());
            case IS_NOT -> !cell.equals(only.text());
            case MORE_THAN -> compare(type.read(cell), type.read(only.text())) > 0;
            case LESS_THAN -> compare(type.read(cell), type.read(only.text())) < 0;
        };
    }

    private static int compare(Value one, Value other) {
        if (one instanceof Value.Decimal number) {
            return number.number().compareTo(((Value.Decimal) other).number());
        }
        return one instanceof Value.Text text
                ? text.text().compareTo(((Value.Text) other).text())
                : instant(one).compareTo(instant(other));
    }

    private static List<Found> picked(List<Found> found, Selected last, LookUp lookUp) {
        Optional<DatasetLookUp.Pick> wanted = lookUp.way().pick();
        if (wanted.isEmpty()) {
            return found;
        }
        DatasetLookUp.Pick pick = wanted.get();
        List<Found> sorted = new ArrayList<>(found.stream()
                .filter(one -> pick.lookBackDays() == 0
                        || last.value(one.row(), pick.orderBy())
                                .map(value -> !instant(value).isBefore(lookUp.lookedBackTo(pick)))
                                .orElse(false))
                .toList());
        sorted.sort((one, other) -> inOrder(last, one, other, lookUp.way()));
        Map<String, Integer> taken = new TreeMap<>();
        return sorted.stream()
                .filter(one -> pick.most() == 0 || taken.merge(one.key(), 1, Integer::sum) <= pick.most())
                .toList();
    }

    private static int inOrder(Selected last, Found one, Found other, DatasetLookUp way) {
        DatasetLookUp.Pick pick = way.pick().orElseThrow();
        Optional<Value> mine = last.value(one.row(), pick.orderBy());
        Optional<Value> its = last.value(other.row(), pick.orderBy());
        int order = mine.isPresent() && its.isPresent()
                ? (pick.newestFirst() ? -1 : 1) * compare(mine.get(), its.get())
                : Boolean.compare(mine.isEmpty(), its.isEmpty());
        for (int i = 0; order == 0 && i < way.given().size(); i++) {
            int at = last.place(way.given().get(i));
            Optional<Value> left = last.value(one.row(), last.columns().get(at).name());
            Optional<Value> right =
                    last.value(other.row(), last.columns().get(at).name());
            order = left.isPresent() && right.isPresent()
                    ? compare(left.get(), right.get())
                    : Boolean.compare(left.isEmpty(), right.isEmpty());
        }
        return order;
    }
}
