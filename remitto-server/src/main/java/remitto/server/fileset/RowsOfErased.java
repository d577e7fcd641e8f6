package remitto.server.fileset;

import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import remitto.core.dataset.ColumnType;
import remitto.core.dataset.Columns;
import remitto.core.fileset.AfterReading;
import remitto.core.fileset.LandedColumn;
import remitto.server.dataset.DatasetDefinition;
import remitto.server.dataset.Datasets;
import remitto.server.rights.KeptRows;

/** Rows of files that hold an address of somebody who is erased, or that are a record of theirs. The files themselves are not ours. */
@Component
class RowsOfErased implements KeptRows {
    private final JdbcClient jdbc;
    private final FileSets sets;
    private final LandedTables tables;
    private final Datasets datasets;

    RowsOfErased(JdbcClient jdbc, FileSets sets, LandedTables tables, Datasets datasets) {
        this.jdbc = jdbc;
        this.sets = sets;
        this.tables = tables;
        this.datasets = datasets;
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
            for (String table : tables.of(set.id())) {
                rows += jdbc.sql("delete from " + table + " r where " + condition(set, tables.columns(table)))
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

    /** @param there columns that the table has, which may be of another revision */
    private String condition(FileSets.FileSet set, List<String> there) {
        List<String> parts = new java.util.ArrayList<>(set.definition().columns().stream()
                .filter(column -> column.type() == ColumnType.TEXT)
                .map(LandedColumn::name)
                .filter(there::contains)
                .map(name -> "lower(r." + LandedTables.quoted(name) + ") in (select text from gone_text)")
                .toList());
        for (Datasets.Dataset dataset : datasets.all()) {
            if (dataset.definition().query() instanceof DatasetDefinition.Query.TableQuery query
                    && dataset.sourceId() == set.sourceId()
                    && query.table().equals(set.table())) {
                List<String> keys = new Columns(dataset.definition().columns()).keys();
                if (!keys.isEmpty() && there.containsAll(keys)) {
                    parts.add(keys.stream()
                                    .map(key -> "r." + LandedTables.quoted(key) + "::text")
                                    .collect(Collectors.joining(" || E'\\t' || "))
                            + " in (select key from gone_key where dataset_id = " + dataset.id() + ")");
                }
            }
        }
        return parts.isEmpty() ? "false" : String.join(" or ", parts);
    }
}
