package remitto.server.dataset;

import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.List;
import java.util.function.LongFunction;
import java.util.regex.Matcher;
import remitto.connect.warehouse.SqlText;
import remitto.core.dataset.ColumnType;
import remitto.core.fieldrule.DatasetLookUp;

/**
 * A way through datasets as SQL that gives the value looked for and what is found, the first of many first. Its columns
 * are {@code looked_for}, then {@code found_1} and so on as the way gives them.
 */
final class LookUpSql {
    private final LongFunction<DatasetDefinition> definitions;
    private final Instant now;

    /** @param definitions of datasets, in the version in service */
    LookUpSql(LongFunction<DatasetDefinition> definitions, Instant now) {
        this.definitions = definitions;
        this.now = now;
    }

    /** @param arguments for the question marks, in order */
    record Query(String text, List<String> arguments) {}

    /** @param keys how many values are looked for; 0 for every one there is */
    Query of(DatasetLookUp way, int keys) {
        List<String> arguments = new ArrayList<>();
        StringBuilder from = new StringBuilder(dataset(way.dataset(), 0));
        for (int i = 0; i < way.hops().size(); i++) {
            DatasetLookUp.Hop hop = way.hops().get(i);
            from.append(" join ")
                    .append(dataset(hop.dataset(), i + 1))
                    .append(" on ")
                    .append(column(i + 1, hop.by()))
                    .append("::text = ")
                    .append(column(i, hop.from()))
                    .append("::text");
        }
        int last = way.hops().size();
        String key = column(0, way.by()) + "::text";
        List<String> where = new ArrayList<>();
        where.add(keys == 0 ? key + " is not null" : key + " in (" + "?, ".repeat(keys - 1) + "?)");
        way.only().forEach(condition -> where.add(condition(way, condition, arguments)));
        String order = way.pick().map(pick -> order(way, pick, where)).orElse("");
        String rows = "select " + key + " as looked_for, " + found(way, true) + "%s from " + from + " where "
                + String.join(" and ", where);
        return new Query(
                way.most() == 0
                        ? rows.replaceFirst("%s", "") + order
                        : "select " + String.join(", ", columns(way)) + " from ("
                                + rows.replaceFirst(
                                        "%s",
                                        Matcher.quoteReplacement(
                                                ", row_number() over (partition by " + key + order + ") as place"))
                                + ") as picked where place <= " + way.most() + " order by looked_for, place",
                arguments);
    }

    /** What the query's columns are called. */
    static List<String> columns(DatasetLookUp way) {
        List<String> names = new ArrayList<>(List.of("looked_for"));
        for (int i = 1; i <= way.given().size(); i++) {
            names.add("found_" + i);
        }
        return names;
    }

    private static String found(DatasetLookUp way, boolean named) {
        List<String> found = new ArrayList<>();
        for (String given : way.given()) {
            found.add(column(way.hops().size(), given) + (named ? " as found_" + (found.size() + 1) : ""));
        }
        return String.join(", ", found);
    }

    private String condition(DatasetLookUp way, DatasetLookUp.Condition condition, List<String> arguments) {
        arguments.add(condition.text());
        String column = column(way.hops().size(), condition.column());
        ColumnType type = definitions.apply(way.last()).columns().stream()
                .filter(one -> one.name().equals(condition.column()))
                .findFirst()
                .orElseThrow()
                .type();
        return switch (condition.comparison()) {
            case IS, IS_NOT -> column + "::text " + condition.comparison().sign() + " ?";
            case MORE_THAN, LESS_THAN -> column + " " + condition.comparison().sign() + " ?::" + sqlType(type);
        };
    }

    private static String sqlType(ColumnType type) {
        return switch (type) {
            case TEXT -> "text";
            case INTEGER, DECIMAL -> "numeric";
            case BOOLEAN -> "boolean";
            case DATE -> "date";
            case TIMESTAMP -> "timestamptz";
        };
    }

    /** Equal ones by all that is received, so that the order is the same each time. */
    private String order(DatasetLookUp way, DatasetLookUp.Pick pick, List<String> where) {
        String column = column(way.hops().size(), pick.orderBy());
        if (pick.lookBackDays() > 0) {
            where.add(column + " >= timestamptz '"
                    + now.minus(pick.lookBackDays(), ChronoUnit.DAYS).truncatedTo(ChronoUnit.SECONDS) + "'");
        }
        return " order by " + column + (pick.newestFirst() ? " desc" : "") + " nulls last, " + found(way, false);
    }

    private String dataset(long id, int number) {
        return "(" + SqlText.query(definitions.apply(id).query().text()) + "\n) as s" + number;
    }

    private static String column(int number, String name) {
        return "s" + number + "." + DatasetQueries.quote(name);
    }
}
