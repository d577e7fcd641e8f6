package remitto.server.journal;

import jakarta.annotation.PreDestroy;
import java.time.Clock;
import java.time.Instant;
import java.util.List;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.atomic.AtomicBoolean;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;
import remitto.server.platform.DueWork;
import remitto.server.platform.Rows;

/**
 * Chains entries behind whoever writes them: an entry is written in the transaction of what it tells of, and waiting there for the one
 * before it would make everybody wait for everybody. One process at a time seals.
 */
@Component
class JournalSealer implements DueWork {
    private static final Logger LOG = LoggerFactory.getLogger(JournalSealer.class);
    static final long ADVISORY_LOCK = 7_346_021_553L;
    private static final int AT_ONCE = 1_000;
    /** An entry is written before its transaction ends; not more than this many others are sealed meanwhile. */
    private static final int LATE = 100_000;

    private final JdbcClient jdbc;
    private final TransactionTemplate transactions;
    private final Clock clock;
    private final ExecutorService thread = Executors.newSingleThreadExecutor(task -> new Thread(task, "journal-seal"));
    private final AtomicBoolean isFree = new AtomicBoolean(true);

    JournalSealer(JdbcClient jdbc, TransactionTemplate transactions, Clock clock) {
        this.jdbc = jdbc;
        this.transactions = transactions;
        this.clock = clock;
    }

    /** The end of the chain. */
    private record Head(long number, byte[] hash) {}

    @Override
    public void startDue(Instant now) {
        if (isFree.compareAndSet(true, false)) {
            thread.execute(this::sealAll);
        }
    }

    private void sealAll() {
        try {
            while (seal() == AT_ONCE) {
                LOG.info("{} entries of the journal were sealed", AT_ONCE);
            }
        } catch (RuntimeException e) {
            LOG.warn("The journal could not be sealed: {}", e.getMessage());
        } finally {
            isFree.set(true);
        }
    }

    @PreDestroy
    void end() {
        thread.shutdownNow();
    }

    /** @return how many entries were sealed */
    int seal() {
        return transactions.execute(status -> {
            boolean first = jdbc.sql("select pg_try_advisory_xact_lock(?)")
                    .param(ADVISORY_LOCK)
                    .query(Boolean.class)
                    .single();
            return first ? sealNext() : 0;
        });
    }

    private int sealNext() {
        Head head = jdbc.sql("select seal_no, hash from ledger.journal_seal order by seal_no desc limit 1")
                .query((row, number) -> new Head(row.getLong("seal_no"), row.getBytes("hash")))
                .optional()
                .orElseGet(() -> new Head(0, JournalChain.START));
        List<JournalChain.Link> open = jdbc.sql("""
                        select * from ledger.journal j
                        where id > (select coalesce(max(journal_id), 0) from ledger.journal_seal) - ?
                          and not exists (select from ledger.journal_seal s where s.journal_id = j.id) order by id limit ?
                        """)
                .params(LATE, AT_ONCE)
                .query((row, number) -> JournalCheck.link(row))
                .list();
        for (JournalChain.Link link : open) {
            byte[] hash = JournalChain.next(head.hash(), head.number() + 1, link);
            jdbc.sql("insert into ledger.journal_seal (seal_no, journal_id, sealed_at, hash) values (?, ?, ?, ?)")
                    .params(head.number() + 1, link.id(), Rows.time(clock.instant()), hash)
                    .update();
            head = new Head(head.number() + 1, hash);
        }
        return open.size();
    }
}
