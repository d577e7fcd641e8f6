package remitto.server.fileset;

import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import remitto.server.dataset.DatasetDefinition;
import remitto.server.dataset.UnreadRows;
import remitto.server.landing.LandedSchema;

/**
 * Rows of files that are held, until their file was read again: one that waits or cannot be read keeps its former rows, and so what is
 * missing among them. A query that somebody wrote counts for every table whose name stands in it.
 */
@Component
class HeldInFiles implements UnreadRows {
    private final JdbcClient jdbc;

    HeldInFiles(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    private record HeldInTable(String table, long rows) {}

    @Override
    public long of(long sourceId, DatasetDefinition.Query query) {
        return jdbc
                .sql("""
                        select f.table_name, sum(l.held) as held from file_set f join landed_file l on l.file_set_id = f.id
                        where l.held > 0 and f.archived_at is null
                          and (select kind from source where id = ?) <> 'warehouse'
                        group by 1
                        """)
                .param(sourceId)
                .query((row, number) -> new HeldInTable(row.getString("table_name"), row.getLong("held")))
                .list()
                .stream()
                .filter(one -> LandedSchema.reads(query, one.table()))
                .mapToLong(HeldInTable::rows)
                .sum();
    }
}
