package remitto.server.fileset;

import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import remitto.core.fileset.AfterReading;
import remitto.server.landing.LandedLock;
import remitto.server.landing.LandedOfErased;
import remitto.server.landing.LandedSchema;
import remitto.server.rights.KeptRows;

/** Rows of files that hold an address of somebody who is erased, or that are a record of theirs. The files themselves are not ours. */
@Component
class RowsOfErased implements KeptRows {
    private final JdbcClient jdbc;
    private final FileSets sets;
    private final LandedTables tables;
    private final LandedSchema schema;
    private final LandedOfErased erased;
    private final LandedLock lock;

    RowsOfErased(
            JdbcClient jdbc,
            FileSets sets,
            LandedTables tables,
            LandedSchema schema,
            LandedOfErased erased,
            LandedLock lock) {
        this.jdbc = jdbc;
        this.sets = sets;
        this.tables = tables;
        this.schema = schema;
        this.erased = erased;
        this.lock = lock;
    }

    @Override
    public List<String> unreached() {
        return sets.all().stream()
                .filter(set -> set.definition().afterReading() != AfterReading.DELETE && holds(set))
                .map(
                        set -> "Files of " + set.name() + " in source " + set.source()
                                + " hold rows of the person. Remove those rows from the files; a file is read again when it changes.")
                .toList();
    }

    private boolean holds(FileSets.FileSet set) {
        return jdbc.sql("select exists (select from " + LandedTables.table(set.id(), set.shownRevision()) + " r where "
                        + condition(set) + ")")
                .query(Boolean.class)
                .single();
    }

    @Override
    public Map<String, Long> forget() {
        long rows = 0;
        for (FileSets.FileSet set : sets.withArchived()) {
            lock.take(LandedLock.Of.FILE_SET, set.id(), set.name());
            for (String table : tables.of(set.id())) {
                rows += jdbc.sql("delete from " + table + " r where " + condition(set, schema.columns(table)))
                        .update();
            }
        }
        Map<String, Long> counts = new LinkedHashMap<>();
        counts.put("rows of files", rows);
        counts.put("held rows of files", (long) jdbc.sql("""
                        delete from held_file_row h where exists (
                          select from gone_text t where length(t.text) >= 4 and strpos(lower(h.content), t.text) > 0)
                        """).update());
        return counts;
    }

    private String condition(FileSets.FileSet set) {
        return condition(set, set.definition().names());
    }

    private String condition(FileSets.FileSet set, List<String> there) {
        return erased.condition(set.definition().columns(), there, set.sourceId(), set.table());
    }
}
