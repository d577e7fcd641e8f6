package remitto.connect.postgres;

import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/**
 * What the server counts of writes (PostgreSQL manual, chapter 28.2, the cumulative statistics system). Counts are written down after a
 * commit, usually within a second, and never before it: whoever sees one that differs sees the rows too. A table that is filled anew,
 * such as a materialized view, has another file.
 */
final class PostgresCounters {
    private static final String COUNTS = """
            select coalesce(string_agg(concat_ws(' ', n.nspname, c.relname, pg_relation_filenode(c.oid),
                pg_stat_get_tuples_inserted(c.oid), pg_stat_get_tuples_updated(c.oid), pg_stat_get_tuples_deleted(c.oid)),
              '; ' order by n.nspname, c.relname), '')
            from pg_class c join pg_namespace n on n.oid = c.relnamespace
            where (n.nspname, c.relname) in (select * from unnest(?::text[], ?::text[]))
            """;

    private static final String TOLD = """
            select current_setting('track_counts') = 'on' and not pg_is_in_recovery()
            """;

    private PostgresCounters() {}

    /** @return empty on a server that does not count (a replica, or one told not to), and for a query that reads more than tables */
    static Optional<String> of(Connection connection, String query) throws SQLException {
        if (!isTold(connection)) {
            return Optional.empty();
        }
        Set<Table> tables = new TreeSet<>();
        return collect(plan(connection, query), tables) ? Optional.of(counts(connection, tables)) : Optional.empty();
    }

    private record Table(String schema, String name) implements Comparable<Table> {
        @Override
        public int compareTo(Table other) {
            int by = schema.compareTo(other.schema);
            return by == 0 ? name.compareTo(other.name) : by;
        }
    }

    private static boolean isTold(Connection connection) throws SQLException {
        try (Statement statement = connection.createStatement();
                ResultSet rows = statement.executeQuery(TOLD)) {
            return rows.next() && rows.getBoolean(1);
        }
    }

    private static JsonNode plan(Connection connection, String query) throws SQLException {
        try (Statement statement = connection.createStatement();
                ResultSet rows = statement.executeQuery("explain (format json, verbose, costs off) " + query)) {
            rows.next();
            return JsonMapper.shared().readTree(rows.getString(1));
        }
    }

    /** @return false if a part of the plan reads what nobody counts */
    private static boolean collect(JsonNode node, Set<Table> tables) {
        String type = node.path("Node Type").asString("");
        String schema = node.path("Schema").asString("");
        boolean builtIn = schema.equals("pg_catalog");
        if (type.equals("Foreign Scan") || type.equals("Custom Scan") || type.equals("Function Scan") && !builtIn) {
            return false;
        }
        if (node.has("Relation Name")) {
            tables.add(new Table(schema, node.get("Relation Name").asString()));
        }
        for (JsonNode part : node) {
            if (part.isContainer() && !collect(part, tables)) {
                return false;
            }
        }
        return true;
    }

    private static String counts(Connection connection, Set<Table> tables) throws SQLException {
        try (PreparedStatement statement = connection.prepareStatement(COUNTS)) {
            statement.setArray(
                    1,
                    connection.createArrayOf(
                            "text", tables.stream().map(Table::schema).toArray()));
            statement.setArray(
                    2,
                    connection.createArrayOf(
                            "text", tables.stream().map(Table::name).toArray()));
            try (ResultSet rows = statement.executeQuery()) {
                rows.next();
                return rows.getString(1);
            }
        }
    }
}
