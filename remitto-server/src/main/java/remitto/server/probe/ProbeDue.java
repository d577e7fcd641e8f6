package remitto.server.probe;

import jakarta.annotation.PreDestroy;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.atomic.AtomicReference;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;
import remitto.connect.source.RowSource;
import remitto.connect.source.SourceProblem;
import remitto.server.audience.AudiencesCounted;
import remitto.server.dataset.DatasetQueries;
import remitto.server.dataset.Datasets;
import remitto.server.platform.DueWork;
import remitto.server.platform.Problem;

/**
 * Looks every minute whether data has changed that something waits for, by threads of its own: a source that does not answer keeps
 * no other waiting. What was seen and what is begun for it are written down together.
 */
@Component
class ProbeDue implements DueWork {
    private static final Logger LOG = LoggerFactory.getLogger(ProbeDue.class);
    private static final Duration BETWEEN = Duration.ofSeconds(10);
    private static final Duration LEFT_ALONE = Duration.ofMinutes(10);
    private static final int AT_A_TIME = 3;

    private final Waiting waiting;
    private final DatasetProbes probes;
    private final Datasets datasets;
    private final DatasetQueries queries;
    private final TransactionTemplate transactions;
    private final Clock clock;
    private final ExecutorService threads = Executors.newFixedThreadPool(AT_A_TIME, task -> new Thread(task, "probes"));
    private final Set<Long> underWay = ConcurrentHashMap.newKeySet();
    private final AtomicReference<Instant> last = new AtomicReference<>(Instant.EPOCH);

    ProbeDue(
            Waiting waiting,
            DatasetProbes probes,
            Datasets datasets,
            DatasetQueries queries,
            TransactionTemplate transactions,
            Clock clock) {
        this.waiting = waiting;
        this.probes = probes;
        this.datasets = datasets;
        this.queries = queries;
        this.transactions = transactions;
        this.clock = clock;
    }

    @Override
    public void startDue(Instant now) {
        Instant before = last.get();
        if (now.isBefore(before.plus(BETWEEN)) || !last.compareAndSet(before, now)) {
            return;
        }
        for (Map.Entry<Long, Waiting.Of> one : waiting.looked().entrySet()) {
            DatasetProbe probe = probes.of(one.getKey());
            if (probe.isDue(now) && underWay.add(one.getKey())) {
                threads.execute(() -> {
                    try {
                        look(probe, one.getValue());
                    } finally {
                        underWay.remove(one.getKey());
                    }
                });
            }
        }
        waiting.beginFailed(now, now.minus(LEFT_ALONE));
    }

    private void look(DatasetProbe before, Waiting.Of of) {
        long dataset = before.dataset();
        if (!probes.begin(before, clock.instant())) {
            return;
        }
        long start = System.nanoTime();
        try {
            Datasets.Dataset known = datasets.get(dataset);
            int version = known.liveVersion().orElse(known.latestVersion());
            RowSource.Mark mark = queries.mark(known.sourceId(), datasets.version(dataset, version));
            // Another version may ask for other rows.
            String seen = version + " " + mark.text();
            long millis = (System.nanoTime() - start) / 1_000_000;
            transactions.executeWithoutResult(status -> {
                probes.seen(dataset, mark.means(), seen, millis);
                if (before.isChanged(seen, clock.instant())) {
                    probes.changed(dataset, clock.instant());
                    waiting.begin(of, clock.instant());
                }
            });
        } catch (SourceProblem | Problem e) {
            LOG.info("Whether dataset {} has changed could not be looked at: {}", dataset, e.getMessage());
            probes.failed(dataset, String.valueOf(e.getMessage()), (System.nanoTime() - start) / 1_000_000);
        } catch (RuntimeException e) {
            LOG.warn("Whether dataset {} has changed could not be looked at", dataset, e);
            probes.failed(
                    dataset,
                    "Something unexpected failed; the server's log has the details.",
                    (System.nanoTime() - start) / 1_000_000);
        }
    }

    @EventListener
    void counted(AudiencesCounted counted) {
        waiting.beginOfPeople(clock.instant());
    }

    @PreDestroy
    void end() {
        threads.shutdownNow();
    }
}
