package remitto.connect.database;

import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.function.Function;
import java.util.stream.Collectors;
import remitto.connect.source.LookUp;
import remitto.connect.source.SourceQuery;
import remitto.core.dataset.ColumnType;
import remitto.core.fieldrule.DatasetLookUp;

/**
 * A way through datasets as SQL that gives the value looked for and what is found, the first of many first. Its columns
 * are {@code looked_for}, then {@code found_1} and so on as the way gives them.
 */
final class LookUpSql {
    private static final String LOOKED_FOR = "looked_for";

    private final Spelling spelling;
    private final Function<SourceQuery, String> queries;
    private final LookUp lookUp;
    private final DatasetLookUp way;

    /** @param queries gives the text of a dataset's query, checked by itself */
    LookUpSql(Spelling spelling, Function<SourceQuery, String> queries, LookUp lookUp) {
        this.spelling = spelling;
        this.queries = queries;
        this.lookUp = lookUp;
        this.way = lookUp.way();
    }

    /**
     * @param keys how many values are looked for; 0 for every one there is
     * @return with the arguments that come after them
     */
    ReadingSql.Asked of(int keys) {
        List<String> arguments = new ArrayList<>();
        String key = spelling.asText(column(0, way.by()));
        List<String> where = new ArrayList<>();
        where.add(
                keys == 0
                        ? key + " is not null"
                        : key + " in (" + String.join(", ", Collections.nCopies(keys, spelling.place(ColumnType.TEXT)))
                                + ")");
        way.only().forEach(condition -> where.add(condition(condition, arguments)));
        way.pick().filter(pick -> pick.lookBackDays() > 0).ifPresent(pick -> where.add(lookedBack(pick)));
        String order = way.pick().map(this::order).orElse("");
        String begin = "select " + key + " as " + spelling.quoted(LOOKED_FOR) + ", " + found();
        String end = " from " + from() + " where " + String.join(" and ", where);
        if (way.most() == 0) {
            return new ReadingSql.Asked(begin + end + order, arguments);
        }
        String placed = begin + ", row_number() over (partition by " + key + order + ") as place" + end;
        return new ReadingSql.Asked(
                "select " + columns().stream().map(spelling::quoted).collect(Collectors.joining(", ")) + " from ("
                        + placed
                        + ") as picked where place <= " + way.most() + " order by " + spelling.quoted(LOOKED_FOR)
                        + ", place",
                arguments);
    }

    /** What the query's columns are called. */
    List<String> columns() {
        List<String> names = new ArrayList<>(List.of(LOOKED_FOR));
        for (int i = 1; i <= way.given().size(); i++) {
            names.add("found_" + i);
        }
        return names;
    }

    private String from() {
        StringBuilder from = new StringBuilder(dataset(way.dataset(), 0));
        for (int i = 0; i < way.hops().size(); i++) {
            DatasetLookUp.Hop hop = way.hops().get(i);
            from.append(" join ")
                    .append(dataset(hop.dataset(), i + 1))
                    .append(" on ")
                    .append(spelling.asText(column(i + 1, hop.by())))
                    .append(" = ")
                    .append(spelling.asText(column(i, hop.from())));
        }
        return from.toString();
    }

    private String found() {
        List<String> found = new ArrayList<>();
        for (String given : way.given()) {
            found.add(column(last(), given) + " as " + spelling.quoted("found_" + (found.size() + 1)));
        }
        return String.join(", ", found);
    }

    private String condition(DatasetLookUp.Condition condition, List<String> arguments) {
        ColumnType type = condition.comparison() == DatasetLookUp.Comparison.IS
                        || condition.comparison() == DatasetLookUp.Comparison.IS_NOT
                ? ColumnType.TEXT
                : widened(lookUp.dataset(way.last()).type(condition.column()));
        arguments.add(spelling.argument(type, condition.text()));
        String column = column(last(), condition.column());
        String sign = " " + condition.comparison().sign() + " ";
        return switch (condition.comparison()) {
            case IS, IS_NOT -> spelling.asText(column) + sign + spelling.place(ColumnType.TEXT);
            case MORE_THAN, LESS_THAN -> column + sign + spelling.place(type);
        };
    }

    /** A whole number is compared with any number of messages. */
    private static ColumnType widened(ColumnType type) {
        return type == ColumnType.INTEGER ? ColumnType.DECIMAL : type;
    }

    private String lookedBack(DatasetLookUp.Pick pick) {
        return column(last(), pick.orderBy()) + " >= " + spelling.moment(lookUp.lookedBackTo(pick));
    }

    /** Equal ones by all that is received, so that the order is the same each time. */
    private String order(DatasetLookUp.Pick pick) {
        List<String> order = new ArrayList<>();
        order.add(spelling.order(column(last(), pick.orderBy()), pick.newestFirst()));
        way.given().forEach(given -> order.add(spelling.order(column(last(), given), false)));
        return " order by " + String.join(", ", order);
    }

    private int last() {
        return way.hops().size();
    }

    private String dataset(long number, int place) {
        return "(" + queries.apply(lookUp.dataset(number).query()) + "\n) as s" + place;
    }

    private String column(int place, String name) {
        return "s" + place + "." + spelling.quoted(name);
    }
}
