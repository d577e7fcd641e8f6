package remitto.server.manifest;

import java.util.List;
import org.springframework.boot.context.event.ApplicationReadyEvent;
import org.springframework.context.event.EventListener;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * Makes the partitions that lines of runs go to: ahead of time, beside the tables and then attached, which lets everybody else go on reading
 * and writing (PostgreSQL 15 manual, 5.11.2). One process at a time does it.
 */
@Component
public class LinePartitions {
    /** Runs whose lines lie together. */
    static final int PARTITION = 500;

    private static final long ADVISORY_LOCK = 7_346_021_551L;
    private static final List<String> TABLES = List.of("manifest_line", "line_outcome");

    private final JdbcClient jdbc;
    private final TransactionTemplate transactions;

    LinePartitions(JdbcClient jdbc, TransactionTemplate transactions) {
        this.jdbc = jdbc;
        this.transactions = transactions;
    }

    /** Those of the next runs, so that hardly any run has to wait for one. */
    @EventListener(ApplicationReadyEvent.class)
    public void ahead() {
        long latest = jdbc.sql("select coalesce(max(id), 0) from run")
                .query(Long.class)
                .single();
        ensure(latest + 1);
        ensure(latest + 1 + PARTITION);
    }

    /** Sees to it that the lines of a run have somewhere to go. */
    public void ensure(long runId) {
        long from = partition(runId);
        if (TABLES.stream().allMatch(table -> exists(table, from))) {
            return;
        }
        transactions.executeWithoutResult(status -> {
            jdbc.sql("select pg_advisory_xact_lock(?)")
                    .param(ADVISORY_LOCK)
                    .query()
                    .listOfRows();
            TABLES.stream().filter(table -> !exists(table, from)).forEach(table -> make(table, from));
        });
    }

    private boolean exists(String table, long from) {
        return jdbc.sql("""
                        select exists (select from pg_inherits where inhrelid = to_regclass(?) and inhparent = to_regclass(?))
                        """)
                .params(table + "_" + from, table)
                .query(Boolean.class)
                .single();
    }

    /** Names and bounds take no parameters; both are numbers of ours. */
    private void make(String table, long from) {
        String partition = table + "_" + from;
        jdbc.sql("drop table if exists " + partition).update();
        jdbc.sql("create table " + partition + " (like " + table + " including all)")
                .update();
        jdbc.sql("alter table " + table + " attach partition " + partition + " for values from (" + from + ") to ("
                        + (from + PARTITION) + ")")
                .update();
    }

    /** Number of the first run whose lines share a partition with this one's. */
    static long partition(long runId) {
        return runId / PARTITION * PARTITION;
    }
}
