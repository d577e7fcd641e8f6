package remitto.connect.postgres;

import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import remitto.connect.database.DatabaseSettings;
import remitto.connect.source.SourceReport;
import remitto.connect.source.SourceReport.Schema;
import remitto.connect.source.SourceReport.Table;
import remitto.connect.source.SourceReport.TableColumn;

/** Looks at what a connection may see. */
final class PostgresCatalogue {
    private static final String SCHEMAS = """
            select nspname as schema, has_schema_privilege(oid, 'usage') as usable,
                   has_schema_privilege(oid, 'create') as creates
            from pg_namespace
            where nspname !~ '^pg_' and nspname <> 'information_schema'
            order by nspname
            """;
    private static final String TABLES = """
            select n.nspname as schema, c.relname as name, c.reltuples::bigint as estimate,
                   has_schema_privilege(n.oid, 'usage') and has_table_privilege(c.oid, 'select') as readable,
                   has_table_privilege(c.oid, 'insert') or has_table_privilege(c.oid, 'update')
                     or has_table_privilege(c.oid, 'delete')
                     or has_table_privilege(c.oid, 'truncate') as writable,
                   a.attname as column, format_type(a.atttypid, a.atttypmod) as type
            from pg_class c
            join pg_namespace n on n.oid = c.relnamespace
            join pg_attribute a on a.attrelid = c.oid and a.attnum > 0 and not a.attisdropped
            where c.relkind in ('r', 'v', 'm', 'p', 'f')
              and n.nspname !~ '^pg_' and n.nspname <> 'information_schema'
            order by n.nspname, c.relname, a.attnum
            """;

    private static final String RIGHTS = """
            select words from (
              select 'may make roles' as words from pg_roles where rolname = current_user and rolcreaterole
              union all select 'may make databases' from pg_roles where rolname = current_user and rolcreatedb
              union all select 'may replicate the server' from pg_roles where rolname = current_user and rolreplication
              union all select 'is a member of ' || r.rolname from pg_roles r
                where r.rolname in ('pg_write_all_data', 'pg_execute_server_program', 'pg_read_server_files',
                                    'pg_write_server_files', 'pg_signal_backend', 'pg_create_subscription')
                  and pg_has_role(current_user, r.oid, 'member')
              union all select 'is a member of the superuser ' || r.rolname from pg_roles r
                where r.rolsuper and r.rolname <> current_user and pg_has_role(current_user, r.oid, 'member')
              union all select 'may make schemas in this database'
                where has_database_privilege(current_database(), 'create')
            ) as found
            """;

    private final Connection connection;

    PostgresCatalogue(Connection connection) {
        this.connection = connection;
    }

    SourceReport report(DatabaseSettings settings) throws SQLException {
        List<String> beyond = new ArrayList<>();
        rights(beyond);
        Map<String, List<Table>> tables = tables(beyond);
        List<Schema> schemas = new ArrayList<>();
        try (PreparedStatement statement = connection.prepareStatement(SCHEMAS);
                ResultSet rows = statement.executeQuery()) {
            while (rows.next()) {
                String name = rows.getString("schema");
                schemas.add(new Schema(name, rows.getBoolean("usable"), tables.getOrDefault(name, List.of())));
                if (rows.getBoolean("creates")) {
                    beyond.add("may create tables in schema " + name);
                }
            }
        }
        return new SourceReport(
                text("select 'PostgreSQL ' || current_setting('server_version')"),
                text("select current_user"),
                text("select coalesce((select ssl from pg_stat_ssl where pid = pg_backend_pid()), false)::text")
                        .equals("true"),
                schemas,
                beyond,
                grants(settings, schemas));
    }

    private Map<String, List<Table>> tables(List<String> beyond) throws SQLException {
        Map<String, List<Table>> bySchema = new LinkedHashMap<>();
        try (PreparedStatement statement = connection.prepareStatement(TABLES);
                ResultSet rows = statement.executeQuery()) {
            String last = "";
            List<TableColumn> columns = new ArrayList<>();
            while (rows.next()) {
                String schema = rows.getString("schema");
                String name = rows.getString("name");
                if (!last.equals(schema + "." + name)) {
                    last = schema + "." + name;
                    columns = new ArrayList<>();
                    bySchema.computeIfAbsent(schema, key -> new ArrayList<>())
                            .add(new Table(name, rows.getLong("estimate"), rows.getBoolean("readable"), columns));
                    if (rows.getBoolean("writable")) {
                        beyond.add("may write to " + last);
                    }
                }
                columns.add(new TableColumn(rows.getString("column"), rows.getString("type")));
            }
        }
        return bySchema;
    }

    private List<String> grants(DatabaseSettings settings, List<Schema> schemas) {
        List<String> grants = new ArrayList<>(loginStatements(settings.user(), settings.database()));
        for (Schema schema : schemas) {
            grants.add("grant usage on schema " + PostgresTables.name(schema.name()) + " to "
                    + PostgresTables.name(settings.user()) + ";");
            grants.add("grant select on all tables in schema " + PostgresTables.name(schema.name()) + " to "
                    + PostgresTables.name(settings.user()) + ";");
        }
        return grants;
    }

    /** Statements that make a login which may sign in and nothing else yet. */
    static List<String> loginStatements(String user, String database) {
        return List.of(
                "create role " + PostgresTables.name(user)
                        + " login password '...' nosuperuser nocreatedb nocreaterole noreplication nobypassrls;",
                "alter role " + PostgresTables.name(user) + " set default_transaction_read_only = on;",
                "grant connect on database " + PostgresTables.name(database) + " to " + PostgresTables.name(user)
                        + ";");
    }

    /** What the login may do that no reading needs, in words. */
    private void rights(List<String> beyond) throws SQLException {
        try (PreparedStatement statement = connection.prepareStatement(RIGHTS);
                ResultSet rows = statement.executeQuery()) {
            while (rows.next()) {
                beyond.add(rows.getString("words"));
            }
        }
    }

    private String text(String sql) throws SQLException {
        try (PreparedStatement statement = connection.prepareStatement(sql);
                ResultSet rows = statement.executeQuery()) {
            rows.next();
            return rows.getString(1);
        }
    }
}
