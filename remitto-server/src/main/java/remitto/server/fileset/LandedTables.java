package remitto.server.fileset;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.springframework.dao.CannotAcquireLockException;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;
import remitto.core.dataset.ColumnType;
import remitto.core.fileset.FileSetDefinition;
import remitto.core.fileset.SeveralFiles;
import remitto.core.landed.LandedColumn;
import remitto.server.landing.LandedSchema;
import remitto.server.platform.Problem;

/**
 * The tables that rows of files are kept in. Each revision of a file set has one of its own in the schema {@code landing}; a view in the
 * schema {@code landed} shows one of them, and is all that the login of datasets may read.
 */
@Component
class LandedTables {
    /** What is known of every row: its file, the line it begins at, and cells as the file spells them where that is otherwise. */
    static final String OWN = "_file, _line, _original";

    private final JdbcTemplate template;
    private final JdbcClient jdbc;
    private final TransactionTemplate transactions;
    private final LandedSchema schema;

    LandedTables(JdbcTemplate template, JdbcClient jdbc, TransactionTemplate transactions, LandedSchema schema) {
        this.template = template;
        this.jdbc = jdbc;
        this.transactions = transactions;
        this.schema = schema;
    }

    static String table(long set, int revision) {
        return "landing.set_" + set + "_" + revision;
    }

    /** The definition's columns, as they stand in SQL. */
    static String columns(FileSetDefinition definition) {
        return LandedSchema.list(definition.names());
    }

    /** Makes an empty table, unless it is there. */
    void make(long set, int revision, FileSetDefinition definition) {
        // Making an index waits for whoever writes to the table, even where there is one.
        if (!schema.isThere(table(set, revision))) {
            makeAnew(set, revision, definition);
        }
    }

    private void makeAnew(long set, int revision, FileSetDefinition definition) {
        List<String> columns = new ArrayList<>();
        for (LandedColumn column : definition.columns()) {
            columns.add(LandedSchema.quoted(column.name()) + " " + LandedSchema.type(column.type()));
        }
        columns.add("_file bigint not null");
        columns.add("_line bigint not null");
        columns.add("_original jsonb");
        if (definition.several() instanceof SeveralFiles.EachHoldsChanges changes) {
            columns.add("_order text collate \"C\" not null");
            columns.add("_removed boolean not null");
            columns.add("unique (" + keys(changes) + ")");
        }
        template.execute(
                "create table if not exists " + table(set, revision) + " (" + String.join(", ", columns) + ")");
        template.execute("create index if not exists set_" + set + "_" + revision + "_file on " + table(set, revision)
                + " (_file)");
    }

    static String keys(SeveralFiles.EachHoldsChanges changes) {
        return LandedSchema.list(changes.keys());
    }

    /**
     * Lets the view show the table of a revision, and drops the others.
     *
     * @throws Problem while somebody reads it for long
     */
    void show(FileSets.FileSet set, int revision) {
        boolean changes = set.definition().several() instanceof SeveralFiles.EachHoldsChanges;
        try {
            transactions.executeWithoutResult(status -> {
                template.execute("set local lock_timeout = '5s'");
                schema.show(
                        set.table(),
                        "select " + columns(set.definition())
                                + ", (select f.path from landed_file f where f.id = t._file) as _file, t._line, t._original from "
                                + table(set.id(), revision) + " t" + (changes ? " where not t._removed" : ""));
                others(set.id(), revision).forEach(one -> template.execute("drop table " + one));
                jdbc.sql("update file_set set shown_revision = ? where id = ?")
                        .params(revision, set.id())
                        .update();
            });
        } catch (CannotAcquireLockException e) {
            throw Problem.conflict("The rows of " + set.name() + " are being read now. Its columns change later.");
        }
    }

    /** Every table of a set, as they stand in SQL. */
    List<String> of(long set) {
        return others(set, 0);
    }

    private List<String> others(long set, int revision) {
        return schema.tables("set_" + set + "_").stream()
                .filter(one -> !one.equals(table(set, revision)))
                .toList();
    }

    /** Removes the rows of a file. */
    long remove(long set, int revision, long file) {
        return jdbc.sql("delete from " + table(set, revision) + " where _file = ?")
                .param(file)
                .update();
    }

    void empty(long set, int revision) {
        template.execute("delete from " + table(set, revision));
    }

    /**
     * Takes over rows of a file that is not there any more from the table that is shown: columns of the same name and type, and any
     * column as text.
     */
    void carryOver(FileSets.FileSet set, long file) {
        Map<String, String> before = types(set.id(), set.shownRevision());
        boolean changes = set.definition().several() instanceof SeveralFiles.EachHoldsChanges;
        if (changes && !before.containsKey("_order")) {
            return;
        }
        List<String> into = new ArrayList<>();
        List<String> from = new ArrayList<>();
        for (LandedColumn column : set.definition().columns()) {
            String there = before.get(column.name());
            if (there != null && (there.equals(LandedSchema.type(column.type())) || column.type() == ColumnType.TEXT)) {
                into.add(LandedSchema.quoted(column.name()));
                from.add(LandedSchema.quoted(column.name()) + (column.type() == ColumnType.TEXT ? "::text" : ""));
            }
        }
        String own = OWN + (changes ? ", _order, _removed" : "");
        into.add(own);
        from.add(own);
        jdbc.sql("insert into " + table(set.id(), set.revision()) + " (" + String.join(", ", into) + ") select "
                        + String.join(", ", from) + " from " + table(set.id(), set.shownRevision())
                        + " where _file = ? on conflict do nothing")
                .param(file)
                .update();
    }

    /** Whether the table that is shown has rows of a file that was not read into the latest one, so that they would seem to have left. */
    boolean misses(FileSets.FileSet set) {
        return jdbc.sql("select exists (select from landed_file l where l.file_set_id = ? and not (l.state = 'READ' and"
                        + " l.revision = ?) and l.state <> 'SUPERSEDED' and exists (select from "
                        + table(set.id(), set.shownRevision()) + " t where t._file = l.id))")
                .params(set.id(), set.revision())
                .query(Boolean.class)
                .single();
    }

    private Map<String, String> types(long set, int revision) {
        Map<String, String> types = new HashMap<>();
        jdbc.sql("select attname, case atttypid::regtype::text when 'timestamp with time zone' then 'timestamptz'"
                        + " else atttypid::regtype::text end as type from pg_attribute"
                        + " where attrelid = to_regclass(?) and attnum > 0 and not attisdropped")
                .param(table(set, revision))
                .query(row -> {
                    types.put(row.getString("attname"), row.getString("type"));
                });
        return types;
    }
}
