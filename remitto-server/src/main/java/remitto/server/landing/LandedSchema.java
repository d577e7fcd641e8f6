package remitto.server.landing;

import java.nio.charset.StandardCharsets;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Optional;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import remitto.core.dataset.ColumnType;
import remitto.server.dataset.DatasetDefinition;
import remitto.server.platform.Problem;
import remitto.server.platform.Rows;
import remitto.server.source.Sources;

/**
 * The schemas that landed rows are kept in: tables in {@code landing}, and in {@code landed} the views of them, which are all that the
 * login of datasets may read.
 */
@Component
public class LandedSchema {
    private static final int LONGEST_NAME = 63;

    private final JdbcTemplate template;
    private final JdbcClient jdbc;
    private final String reader;

    LandedSchema(JdbcTemplate template, JdbcClient jdbc, @Value("${remitto.people-reader.user}") String reader) {
        this.template = template;
        this.jdbc = jdbc;
        this.reader = reader;
    }

    /** A name as it stands in SQL. */
    public static String quoted(String name) {
        return "\"" + name.replace("\"", "\"\"") + "\"";
    }

    /** Names as they stand in SQL, one after another. */
    public static String list(Collection<String> names) {
        return names.stream().map(LandedSchema::quoted).collect(Collectors.joining(", "));
    }

    /** The cells of a row as they are spelled, in the order of columns. */
    public static List<Optional<String>> cells(ResultSet row, List<String> columns) throws SQLException {
        List<Optional<String>> cells = new ArrayList<>();
        for (String column : columns) {
            cells.add(Rows.optionalText(row, column));
        }
        return cells;
    }

    /** The view of a name, as it stands in SQL. */
    public static String view(String name) {
        return Sources.LANDED + "." + quoted(name);
    }

    /** The type that values are kept in. */
    public static String type(ColumnType type) {
        return switch (type) {
            case TEXT -> "text";
            case INTEGER -> "bigint";
            case DECIMAL -> "numeric";
            case BOOLEAN -> "boolean";
            case DATE -> "date";
            case TIMESTAMP -> "timestamptz";
        };
    }

    /** @throws Problem if PostgreSQL keeps no table of that name */
    public static void checkName(String table) {
        if (table.isEmpty() || table.getBytes(StandardCharsets.UTF_8).length > LONGEST_NAME || table.indexOf(0) >= 0) {
            throw Problem.invalid("Give the table a name of 1 to 63 bytes, such as berth_lists.");
        }
    }

    /** What has a table of that name in service, in words; {@code but} its own id and kind it may be. */
    public Optional<String> takenBy(String table, String kind, long but) {
        return jdbc
                .sql("""
                        select words from (
                          select 'File set ' || name as words, 'file set' as kind, id from file_set
                          where table_name = :table and archived_at is null
                          union all select 'Receiver ' || name, 'receiver', id from receiver
                          where table_name = :table and archived_at is null) u
                        where not (u.kind = :kind and u.id = :id)
                        """)
                .param("table", table)
                .param("kind", kind)
                .param("id", but)
                .query(String.class)
                .list()
                .stream()
                .findFirst();
    }

    /** Shows rows by a name that may have shown others before, within the transaction of whoever asks. */
    public void show(String name, String select) {
        template.execute("drop view if exists " + view(name));
        template.execute("create view " + view(name) + " as " + select);
        grant(view(name));
    }

    /** The login is made by whoever runs the database; without it nobody reads datasets of landed rows. */
    private void grant(String view) {
        boolean there = jdbc.sql("select exists (select from pg_roles where rolname = ?)")
                .param(reader)
                .query(Boolean.class)
                .single();
        if (there) {
            template.execute("grant usage on schema " + Sources.LANDED + " to " + quoted(reader));
            template.execute("grant select on " + view + " to " + quoted(reader));
        }
    }

    /** Whether there is such a table. */
    public boolean isThere(String table) {
        return jdbc.sql("select to_regclass(?) is not null")
                .param(table)
                .query(Boolean.class)
                .single();
    }

    /** Names of a table's columns. */
    public List<String> columns(String table) {
        return jdbc.sql("select attname from pg_attribute where attrelid = to_regclass(?) and attnum > 0"
                        + " and not attisdropped")
                .param(table)
                .query(String.class)
                .list();
    }

    /** Tables whose names begin alike, as they stand in SQL. */
    public List<String> tables(String beginning) {
        return jdbc.sql("""
                        select format('landing.%I', tablename) from pg_tables
                        where schemaname = 'landing' and starts_with(tablename, ?)
                        """).param(beginning).query(String.class).list();
    }

    /** Whether a query reads a table. A name counts where it stands by itself, in whatever letters, quoted or not. */
    public static boolean reads(DatasetDefinition.Query query, String table) {
        if (query instanceof DatasetDefinition.Query.TableQuery one) {
            return one.table().equals(table);
        }
        String name = Pattern.quote(table.replace("\"", "\"\""));
        return Pattern.compile(
                        "(?<![\\p{L}\\p{N}_])" + name + "(?![\\p{L}\\p{N}_])",
                        Pattern.CASE_INSENSITIVE | Pattern.UNICODE_CASE)
                .matcher(query.text())
                .find();
    }
}
