package remitto.connect.table;

import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.OptionalInt;
import remitto.core.destination.Abilities;
import remitto.core.destination.Field;
import remitto.core.destination.FieldKind;
import remitto.core.destination.ObjectDescription;

/**
 * A table as its database describes it.
 *
 * @param key column of its primary key, by which its rows are told apart
 * @param columns in their order
 * @param deletes whether this login may delete rows
 */
record Table(String schema, String name, String key, List<TableColumn> columns, boolean deletes) {
    /** Tables with a primary key of one column that this login may read, fill and change. */
    static final String USABLE = """
            select c.relname as name, a.attname as key, has_table_privilege(c.oid, 'DELETE') as deletes
            from pg_class c
            join pg_namespace n on n.oid = c.relnamespace
            join pg_index i on i.indrelid = c.oid and i.indisprimary and i.indnkeyatts = 1
            join pg_attribute a on a.attrelid = c.oid and a.attnum = i.indkey[0]
            where n.nspname = ? and c.relkind in ('r', 'p') and has_schema_privilege(n.oid, 'USAGE')
              and has_table_privilege(c.oid, 'SELECT') and has_any_column_privilege(c.oid, 'INSERT')
              and has_any_column_privilege(c.oid, 'UPDATE')
            """;

    private static final String COLUMNS = """
            select a.attname as name, format_type(a.atttypid, null) as type, a.atttypmod as modifier,
              a.attnotnull and not a.atthasdef and a.attidentity = '' as required,
              a.attgenerated <> '' or a.attidentity = 'a' as made,
              has_column_privilege(c.oid, a.attnum, 'INSERT') and has_column_privilege(c.oid, a.attnum, 'UPDATE') as writable,
              exists (select from pg_index i where i.indrelid = c.oid and i.indisunique and i.indnkeyatts = 1
                and i.indkey[0] = a.attnum and i.indpred is null) as alone
            from pg_class c join pg_namespace n on n.oid = c.relnamespace
            join pg_attribute a on a.attrelid = c.oid
            where n.nspname = ? and c.relname = ? and a.attnum > 0 and not a.attisdropped
              and has_column_privilege(c.oid, a.attnum, 'SELECT')
            order by a.attnum
            """;

    /** @param type as PostgreSQL calls it, to which texts are cast */
    record TableColumn(String type, Field field) {}

    static Optional<Table> of(Connection connection, String schema, String name) throws SQLException {
        String key;
        boolean deletes;
        try (PreparedStatement statement = connection.prepareStatement(USABLE + " and c.relname = ?")) {
            statement.setString(1, schema);
            statement.setString(2, name);
            try (ResultSet rows = statement.executeQuery()) {
                if (!rows.next()) {
                    return Optional.empty();
                }
                key = rows.getString("key");
                deletes = rows.getBoolean("deletes");
            }
        }
        List<TableColumn> columns = new ArrayList<>();
        try (PreparedStatement statement = connection.prepareStatement(COLUMNS)) {
            statement.setString(1, schema);
            statement.setString(2, name);
            try (ResultSet rows = statement.executeQuery()) {
                while (rows.next()) {
                    columns.add(column(rows));
                }
            }
        }
        return Optional.of(new Table(schema, name, key, columns, deletes));
    }

    private static TableColumn column(ResultSet row) throws SQLException {
        String type = row.getString("type");
        int modifier = row.getInt("modifier");
        boolean text = type.equals("character varying") || type.equals("character");
        return new TableColumn(
                type,
                new Field(
                        row.getString("name"),
                        row.getString("name"),
                        kind(type),
                        row.getBoolean("required"),
                        row.getBoolean("alone"),
                        row.getBoolean("made"),
                        row.getBoolean("writable"),
                        false,
                        text && modifier > 4 ? OptionalInt.of(modifier - 4) : OptionalInt.empty(),
                        List.of()));
    }

    private static FieldKind kind(String type) {
        return switch (type.toLowerCase(Locale.ROOT)) {
            case "smallint", "integer", "bigint" -> FieldKind.INTEGER;
            case "numeric", "real", "double precision" -> FieldKind.DECIMAL;
            case "boolean" -> FieldKind.BOOLEAN;
            case "date" -> FieldKind.DATE;
            case "timestamp with time zone", "timestamp without time zone" -> FieldKind.TIMESTAMP;
            case "text[]", "character varying[]" -> FieldKind.LIST;
            default -> FieldKind.TEXT;
        };
    }

    /** Fields that come first are those that can be a key. */
    ObjectDescription description() {
        return new ObjectDescription(
                name,
                name,
                false,
                new Abilities(false, true, true, deletes),
                columns.stream().map(TableColumn::field).toList());
    }

    TableColumn column(String name) {
        return columns.stream()
                .filter(column -> column.field().name().equals(name))
                .findFirst()
                .orElseThrow(() -> new IllegalArgumentException("table " + this.name + " has no column " + name));
    }

    /** Quoted, with its schema. */
    String quoted() {
        return quote(schema) + "." + quote(name);
    }

    static String quote(String name) {
        return "\"" + name.replace("\"", "\"\"") + "\"";
    }
}
