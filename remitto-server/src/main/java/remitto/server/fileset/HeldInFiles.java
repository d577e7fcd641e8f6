package remitto.server.fileset;

import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import remitto.server.dataset.DatasetDefinition;
import remitto.server.dataset.UnreadRows;

/** Rows of files that are held. A query that somebody wrote counts for every table whose name stands in it. */
@Component
class HeldInFiles implements UnreadRows {
    private final JdbcClient jdbc;

    HeldInFiles(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    @Override
    public long of(long sourceId, DatasetDefinition.Query query) {
        boolean table = query instanceof DatasetDefinition.Query.TableQuery;
        String named = query instanceof DatasetDefinition.Query.TableQuery one ? one.table() : query.text();
        return jdbc.sql("""
                        select coalesce(sum(l.held), 0) from file_set f join landed_file l on l.file_set_id = f.id
                        where l.state = 'READ' and (select kind from source where id = ?) in ('files', 'people')
                          and case when ? then f.table_name = ? else strpos(?, f.table_name) > 0 end
                        """)
                .params(sourceId, table, named, named)
                .query(Long.class)
                .single();
    }
}
