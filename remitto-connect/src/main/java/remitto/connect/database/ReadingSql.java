package remitto.connect.database;

import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import remitto.connect.source.Reading;
import remitto.connect.source.RowFilter;
import remitto.core.dataset.Column;
import remitto.core.dataset.ColumnType;

/** What is asked of the rows of a query, as SQL around it. */
final class ReadingSql {
    /** The usual spelling of a whole number, short enough for 64 bits. */
    private static final Pattern WHOLE = Pattern.compile("0|-?[1-9]\\d{0,17}");

    private final Spelling spelling;
    private final String query;

    /** @param query checked by itself */
    ReadingSql(Spelling spelling, String query) {
        this.spelling = spelling;
        this.query = query;
    }

    /** @param arguments of its places, in their order */
    record Asked(String text, List<String> arguments) {}

    /** Whether the query itself gives just the wanted rows, so that nothing stands around it. */
    static boolean isWhole(Reading reading) {
        return reading.filter() instanceof RowFilter.All && reading.most() == 0;
    }

    Asked rows(Reading reading) {
        if (isWhole(reading)) {
            return new Asked(query, List.of());
        }
        List<String> arguments = new ArrayList<>();
        String where = condition(reading.filter(), arguments);
        String select = "select *" + from() + (where.isEmpty() ? "" : " where " + where);
        return new Asked(reading.most() == 0 ? select : spelling.atMost(select, reading.most()), arguments);
    }

    private String from() {
        return " from (" + query + "\n) as dataset";
    }

    private String condition(RowFilter filter, List<String> arguments) {
        if (filter instanceof RowFilter.OfKeys keys) {
            return ofKeys(keys, arguments);
        }
        if (filter instanceof RowFilter.Containing containing) {
            containing.columns().forEach(column -> arguments.add(spelling.pattern(containing.text())));
            return any(containing.columns().stream()
                    .map(column -> spelling.contains(spelling.quoted(column)))
                    .toList());
        }
        if (filter instanceof RowFilter.SinceOrWithout since) {
            String column = spelling.quoted(since.column());
            return column + " >= " + spelling.moment(since.from()) + " or " + column + " is null";
        }
        return "";
    }

    private static String any(List<String> conditions) {
        return conditions.isEmpty() ? "1 = 0" : String.join(" or ", conditions);
    }

    /** Whole numbers are compared as such, so that an index can find them. */
    private String ofKeys(RowFilter.OfKeys keys, List<String> arguments) {
        List<List<String>> possible = keys.keys().stream()
                .filter(parts -> canBe(keys.columns(), parts))
                .toList();
        if (possible.isEmpty()) {
            return "1 = 0";
        }
        possible.forEach(arguments::addAll);
        String compared = keys.columns().stream()
                .map(column -> isWhole(column)
                        ? spelling.quoted(column.name())
                        : spelling.asText(spelling.quoted(column.name())))
                .collect(Collectors.joining(", ", "(", ")"));
        String places = keys.columns().stream()
                .map(column -> spelling.place(isWhole(column) ? ColumnType.INTEGER : ColumnType.TEXT))
                .collect(Collectors.joining(", ", "(", ")"));
        return compared + " in (" + String.join(", ", Collections.nCopies(possible.size(), places)) + ")";
    }

    private static boolean canBe(List<Column> columns, List<String> parts) {
        if (parts.size() != columns.size()) {
            return false;
        }
        for (int i = 0; i < parts.size(); i++) {
            if (isWhole(columns.get(i)) && !WHOLE.matcher(parts.get(i)).matches()) {
                return false;
            }
        }
        return true;
    }

    private static boolean isWhole(Column column) {
        return column.type() == ColumnType.INTEGER;
    }

    private String exact(List<String> columns) {
        return columns.stream()
                .map(column -> spelling.exact(spelling.quoted(column)))
                .collect(Collectors.joining(", "));
    }

    private String list(List<String> columns) {
        return columns.stream()
                .map(column -> spelling.exact(spelling.quoted(column)) + " as " + spelling.quoted(column))
                .collect(Collectors.joining(", "));
    }

    private String blank(List<String> keys) {
        return any(
                keys.stream().map(key -> spelling.blank(spelling.quoted(key))).toList());
    }

    String count() {
        return "select count(*)" + from();
    }

    String countBlank(List<String> keys) {
        return count() + " where " + blank(keys);
    }

    /** The keys that several rows have. */
    String doubles(List<String> keys) {
        return "select " + list(keys) + from() + " where not (" + blank(keys) + ") group by " + exact(keys)
                + " having count(*) > 1";
    }

    String countDoubles(List<String> keys) {
        return "select count(*) from (" + doubles(keys) + ") as doubles";
    }

    String newest(String column) {
        return "select max(" + spelling.quoted(column) + ") as newest" + from();
    }

    String words(String column, int most) {
        String quoted = spelling.quoted(column);
        String word = spelling.quoted("word");
        String held = spelling.quoted("held");
        String select = "select " + spelling.asText(quoted) + " as " + word + ", count(*) as " + held + from()
                + " where " + quoted + " is not null group by " + spelling.asText(quoted) + " order by " + held
                + " desc, " + word;
        return spelling.atMost(select, most);
    }
}
