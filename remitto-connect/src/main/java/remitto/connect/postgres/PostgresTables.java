package remitto.connect.postgres;

import java.util.stream.Collectors;
import remitto.connect.source.SourceProblem;
import remitto.connect.source.SourceQuery;

/** Columns of a table as a query that a person may read and go on writing: plain names stand without quotes. */
public final class PostgresTables {
    private PostgresTables() {}

    /** @throws SourceProblem if the filter is not a single condition */
    public static String select(SourceQuery.OfTable table) {
        String names = table.columns().stream().map(PostgresTables::name).collect(Collectors.joining(", "));
        return "select " + names + "\nfrom " + name(table.schema()) + "." + name(table.table())
                + table.filter()
                        .map(condition -> "\nwhere " + PostgresText.condition(condition))
                        .orElse("");
    }

    static String name(String name) {
        return name.matches("[a-z_][a-z0-9_]*") ? name : "\"" + name.replace("\"", "\"\"") + "\"";
    }
}
