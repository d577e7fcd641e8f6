package remitto.connect.mariadb;

import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import remitto.connect.database.DatabaseSettings;
import remitto.connect.source.SourceReport;
import remitto.connect.source.SourceReport.Schema;
import remitto.connect.source.SourceReport.Table;
import remitto.connect.source.SourceReport.TableColumn;

/** Looks at what a connection may see, by the information schema, which tells everybody what they may do themselves. */
final class MariaCatalogue {
    private static final String COLUMNS = """
            select c.table_schema, c.table_name, coalesce(t.table_rows, -1) as estimate, c.column_name, c.column_type,
              lower(c.privileges) as privileges
            from information_schema.columns c
            join information_schema.tables t on t.table_schema = c.table_schema and t.table_name = c.table_name
            where c.table_schema not in ('information_schema', 'performance_schema', 'mysql', 'sys')
            order by c.table_schema, c.table_name, c.ordinal_position
            """;
    private static final String SCHEMAS = """
            select schema_name from information_schema.schemata
            where schema_name not in ('information_schema', 'performance_schema', 'mysql', 'sys')
            order by schema_name
            """;
    private static final String RIGHTS = """
            select privilege_type, 'the whole server' as place, is_grantable from information_schema.user_privileges
            union all
            select privilege_type, concat('database ', table_schema), is_grantable from information_schema.schema_privileges
            union all
            select privilege_type, concat('table ', table_schema, '.', table_name), is_grantable
              from information_schema.table_privileges
            """;
    /** What a login that reads may well have. */
    private static final Set<String> READING = Set.of("USAGE", "SELECT", "SHOW VIEW", "SHOW DATABASES");
    /** With these, no read-only transaction holds. */
    private static final Set<String> ABOVE = Set.of("FILE", "SUPER");

    private final Connection connection;

    MariaCatalogue(Connection connection) {
        this.connection = connection;
    }

    /** A right on the whole server with which reading is not only reading. */
    Optional<String> aboveReading() throws SQLException {
        List<String> found = new ArrayList<>();
        each("select privilege_type from information_schema.user_privileges", row -> found.add(row.getString(1)));
        return found.stream().filter(ABOVE::contains).sorted().findFirst();
    }

    SourceReport report(DatabaseSettings settings) throws SQLException {
        Set<String> beyond = new TreeSet<>();
        rights(beyond);
        Map<String, List<Table>> tables = tables(beyond);
        List<Schema> schemas = new ArrayList<>();
        each(SCHEMAS, row -> {
            String name = row.getString(1);
            schemas.add(new Schema(name, true, tables.getOrDefault(name, List.of())));
        });
        List<String> cipher = new ArrayList<>();
        each("show session status like 'Ssl_cipher'", row -> cipher.add(row.getString(2)));
        return new SourceReport(
                "MariaDB " + text(connection, "select version()"),
                text(connection, "select current_user()"),
                cipher.stream().anyMatch(one -> !one.isEmpty()),
                schemas,
                List.copyOf(beyond),
                grants(settings));
    }

    private Map<String, List<Table>> tables(Set<String> beyond) throws SQLException {
        record Found(long estimate, List<TableColumn> columns, Set<Boolean> readable) {}
        Map<String, Map<String, Found>> found = new LinkedHashMap<>();
        each(COLUMNS, row -> {
            String schema = row.getString("table_schema");
            String name = row.getString("table_name");
            List<String> rights = List.of(row.getString("privileges").split(","));
            long estimate = row.getLong("estimate");
            Found table = found.computeIfAbsent(schema, key -> new LinkedHashMap<>())
                    .computeIfAbsent(name, key -> new Found(estimate, new ArrayList<>(), new TreeSet<>()));
            table.columns().add(new TableColumn(row.getString("column_name"), row.getString("column_type")));
            table.readable().add(rights.contains("select"));
            if (rights.contains("insert") || rights.contains("update")) {
                beyond.add("may write to " + schema + "." + name);
            }
        });
        Map<String, List<Table>> tables = new TreeMap<>();
        found.forEach((schema, byName) -> tables.put(
                schema,
                byName.entrySet().stream()
                        .map(one -> new Table(
                                one.getKey(),
                                one.getValue().estimate(),
                                !one.getValue().readable().contains(false),
                                one.getValue().columns()))
                        .toList()));
        return tables;
    }

    private void rights(Set<String> beyond) throws SQLException {
        Map<String, Set<String>> byPlace = new TreeMap<>();
        each(RIGHTS, row -> {
            String right = row.getString(1);
            if (!READING.contains(right)) {
                byPlace.computeIfAbsent(row.getString(2), place -> new TreeSet<>())
                        .add(right);
            }
            if (row.getString(3).toLowerCase(Locale.ROOT).equals("yes")) {
                beyond.add("may give others its rights on " + row.getString(2));
            }
        });
        byPlace.forEach((place, rights) -> beyond.add((rights.size() == 1 ? "has the right " : "has the rights ")
                + String.join(", ", rights) + " on " + place));
    }

    /** Statements that make a login which may read one database and nothing else. */
    static List<String> grants(DatabaseSettings settings) {
        String user = text(settings.user()) + "@'%'";
        return List.of(
                "create user " + user + " identified by '...';",
                "grant select, show view on " + MariaSpelling.name(settings.database()) + ".* to " + user + ";");
    }

    private static String text(String value) {
        return "'" + value.replace("'", "''") + "'";
    }

    static String text(Connection connection, String sql) throws SQLException {
        try (PreparedStatement statement = connection.prepareStatement(sql);
                ResultSet rows = statement.executeQuery()) {
            rows.next();
            return Optional.ofNullable(rows.getString(1)).orElse("");
        }
    }

    private interface Each {
        void take(ResultSet row) throws SQLException;
    }

    private void each(String sql, Each each) throws SQLException {
        try (PreparedStatement statement = connection.prepareStatement(sql);
                ResultSet rows = statement.executeQuery()) {
            while (rows.next()) {
                each.take(rows);
            }
        }
    }
}
