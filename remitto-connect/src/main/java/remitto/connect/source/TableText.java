package remitto.connect.source;

import java.util.Set;
import java.util.function.UnaryOperator;
import java.util.stream.Collectors;

/** Columns of a table as a query. */
public final class TableText {
    /** Words that mean something else without quotes, such as {@code user} (PostgreSQL 15 manual, appendix C, and SQL:2016). */
    private static final Set<String> RESERVED = Set.of(
            ("all analyse analyze and any array as asc asymmetric authorization between binary both by case cast check collate"
                            + " collation column concurrently constraint create cross current_catalog current_date"
                            + " current_role current_schema current_time current_timestamp current_user default"
                            + " deferrable delete desc distinct do drop else end except exists false fetch for foreign"
                            + " freeze from full grant group having ilike in index initially inner insert intersect"
                            + " interval into is isnull join key lateral leading left like limit localtime"
                            + " localtimestamp natural not notnull null offset on only or order outer overlaps placing"
                            + " primary rank references returning right row rows select session_user set similar some"
                            + " symmetric system_user table tablesample then to trailing true union unique update user"
                            + " using values variadic verbose when where window with")
                    .split(" "));

    private TableText() {}

    /** As it is shown, in standard SQL that a person may read and go on writing: plain names stand without quotes. */
    public static String shown(SourceQuery.OfTable table) {
        return select(table, name -> plain(name, TableText::quoted), String::strip);
    }

    /**
     * @param name gives a name as it stands in the text
     * @param condition looks at the filter
     */
    public static String select(
            SourceQuery.OfTable table, UnaryOperator<String> name, UnaryOperator<String> condition) {
        return "select " + table.columns().stream().map(name).collect(Collectors.joining(", ")) + "\nfrom "
                + (table.schema().isEmpty() ? "" : name.apply(table.schema()) + ".") + name.apply(table.table())
                + table.filter()
                        .map(filter -> "\nwhere " + condition.apply(filter))
                        .orElse("");
    }

    /** In quotes only where it needs them. */
    public static String plain(String name, UnaryOperator<String> quoted) {
        return name.matches("[a-z_][a-z0-9_]*") && !RESERVED.contains(name) ? name : quoted.apply(name);
    }

    /** As standard SQL quotes names. */
    public static String quoted(String name) {
        return "\"" + name.replace("\"", "\"\"") + "\"";
    }
}
