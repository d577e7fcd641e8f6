package remitto.server.manifest;

import java.time.Instant;
import java.util.List;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;
import remitto.core.cause.CauseKind;
import remitto.server.platform.Rows;

/**
 * Removes lines of manifests that ended long ago: a whole partition at once where all its runs did, and run by run elsewhere. A run keeps
 * what became of its lines as sums. Lines that somebody still has to decide about stay.
 */
@Component
public class OldLines {
    private static final String OVER = """
            r.finished_at < :before and r.state not in ('PREPARING', 'READY', 'AWAITING_APPROVAL', 'SENDING', 'SUSPENDED')
            and not exists (select from open_call c where c.run_id = r.id)
            and not exists (select from held h where h.run_id = r.id and h.code = :unknown)
            """;

    private final JdbcClient jdbc;
    private final TransactionTemplate transactions;

    OldLines(JdbcClient jdbc, TransactionTemplate transactions) {
        this.jdbc = jdbc;
        this.transactions = transactions;
    }

    /** @return of how many runs the lines were removed */
    public long remove(Instant before) {
        long removed = 0;
        for (long from : partitions()) {
            removed += partition(from, before);
        }
        for (long run : runs(before)) {
            transactions.executeWithoutResult(status -> one(run));
            removed++;
        }
        return removed;
    }

    private List<Long> partitions() {
        return jdbc.sql("""
                        select substring(c.relname from 'manifest_line_(\\d+)$')::bigint from pg_inherits i
                        join pg_class c on c.oid = i.inhrelid where i.inhparent = 'manifest_line'::regclass
                          and c.relname ~ '^manifest_line_\\d+$' order by 1
                        """).query(Long.class).list();
    }

    /** The partition of runs to come is never removed. */
    private int partition(long from, Instant before) {
        return transactions.execute(status -> {
            boolean over = jdbc.sql("""
                            select exists (select from run where id >= :to) and not exists (
                              select from run r where r.id >= :from and r.id < :to and r.state <> 'SKIPPED' and not (%s))
                            """.formatted(OVER))
                    .param("from", from)
                    .param("to", from + LinePartitions.PARTITION)
                    .param("before", Rows.time(before))
                    .param("unknown", CauseKind.OUTCOME_UNKNOWN.code())
                    .query(Boolean.class)
                    .single();
            if (!over) {
                return 0;
            }
            // Whoever reads lines now is waited for, and waits no longer than this for the removal.
            jdbc.sql("set local lock_timeout = '3s'").update();
            int runs = keepCounts(from, from + LinePartitions.PARTITION);
            jdbc.sql("drop table manifest_line_" + from).update();
            jdbc.sql("drop table line_outcome_" + from).update();
            return runs;
        });
    }

    private List<Long> runs(Instant before) {
        return jdbc.sql("select r.id from run r where r.lines_removed_at is null and r.state <> 'SKIPPED' and " + OVER
                        + " order by r.id")
                .param("before", Rows.time(before))
                .param("unknown", CauseKind.OUTCOME_UNKNOWN.code())
                .query(Long.class)
                .list();
    }

    private void one(long run) {
        keepCounts(run, run + 1);
        jdbc.sql("delete from manifest_line where run_id = ?").param(run).update();
        jdbc.sql("delete from line_outcome where run_id = ?").param(run).update();
    }

    private int keepCounts(long from, long to) {
        return jdbc.sql("""
                        update run r set lines_removed_at = clock_timestamp(), outcomes = (
                          select coalesce(jsonb_object_agg(o.state, o.lines), '{}') from (
                            select state, count(*) as lines from line_outcome where run_id = r.id group by state) o)
                        where r.id >= :from and r.id < :to and r.lines_removed_at is null
                        """).param("from", from).param("to", to).update();
    }
}
