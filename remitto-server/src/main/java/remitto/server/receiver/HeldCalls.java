package remitto.server.receiver;

import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import remitto.server.dataset.DatasetDefinition;
import remitto.server.dataset.UnreadRows;
import remitto.server.landing.LandedSchema;

/** Calls that are held, and so missing among the rows of their table. */
@Component
class HeldCalls implements UnreadRows {
    private final JdbcClient jdbc;

    HeldCalls(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    private record HeldInTable(String table, long calls) {}

    @Override
    public long of(long sourceId, DatasetDefinition.Query query) {
        return jdbc
                .sql("""
                        select r.table_name, count(*) as held from receiver r join received_call c on c.receiver_id = r.id
                        where c.verdict = 'HELD' and r.archived_at is null
                          and (select kind from source where id = ?) <> 'warehouse'
                        group by 1
                        """)
                .param(sourceId)
                .query((row, number) -> new HeldInTable(row.getString("table_name"), row.getLong("held")))
                .list()
                .stream()
                .filter(one -> LandedSchema.reads(query, one.table()))
                .mapToLong(HeldInTable::calls)
                .sum();
    }
}
