package remitto.server.expectation;

import jakarta.annotation.PreDestroy;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Semaphore;
import java.util.concurrent.atomic.AtomicReference;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Component;
import remitto.connect.source.SourceProblem;
import remitto.core.expectation.ReadCheck;
import remitto.core.expectation.ReadFacts;
import remitto.server.dataset.DatasetDefinition;
import remitto.server.dataset.DatasetQueries;
import remitto.server.dataset.Datasets;
import remitto.server.platform.DueWork;
import remitto.server.platform.Problem;
import remitto.server.source.Sources;

/**
 * Reads datasets to check them: when somebody asks for it, and once a day where something is expected and nothing else reads them.
 * Where their number of rows or their age matters, these are counted every hour, without reading a row.
 */
@Component
class DatasetChecks implements DueWork {
    private static final Logger LOG = LoggerFactory.getLogger(DatasetChecks.class);
    private static final Duration BETWEEN = Duration.ofSeconds(5);
    private static final Duration TIME = Duration.ofHours(2);
    private static final int AT_A_TIME = 4;

    private final CheckTable table;
    private final ReadWatches watches;
    private final DatasetReads reads;
    private final Datasets datasets;
    private final DatasetQueries queries;
    private final Sources sources;
    private final Clock clock;
    private final ExecutorService threads = Executors.newFixedThreadPool(AT_A_TIME, task -> new Thread(task, "checks"));
    private final Semaphore room = new Semaphore(AT_A_TIME);
    /** Sources that a dataset is being read from, so that one that does not answer keeps none of another waiting. */
    private final Set<Long> reading = ConcurrentHashMap.newKeySet();

    private final AtomicReference<Instant> last = new AtomicReference<>(Instant.EPOCH);

    DatasetChecks(
            CheckTable table,
            ReadWatches watches,
            DatasetReads reads,
            Datasets datasets,
            DatasetQueries queries,
            Sources sources,
            Clock clock) {
        this.table = table;
        this.watches = watches;
        this.reads = reads;
        this.datasets = datasets;
        this.queries = queries;
        this.sources = sources;
        this.clock = clock;
    }

    @Override
    public void startDue(Instant now) {
        Instant before = last.get();
        if (now.isBefore(before.plus(BETWEEN)) || !last.compareAndSet(before, now)) {
            return;
        }
        for (long dataset : table.due(now)) {
            start(dataset, () -> {
                if (table.begin(dataset, clock.instant())) {
                    table.end(dataset, attempted(dataset, this::check));
                }
            });
        }
        for (long dataset : table.toBeCounted(now)) {
            start(dataset, () -> {
                table.counted(dataset, clock.instant());
                attempted(dataset, this::count);
            });
        }
    }

    /** What finds no room now is due again at the next look. */
    private void start(long dataset, Runnable work) {
        Optional<Long> source = datasets.find(dataset).map(Datasets.Dataset::sourceId);
        if (source.isEmpty() || !reading.add(source.get())) {
            return;
        }
        if (room.tryAcquire()) {
            threads.execute(() -> {
                try {
                    work.run();
                } catch (RuntimeException e) {
                    LOG.warn("A check could not be noted", e);
                } finally {
                    reading.remove(source.get());
                    room.release();
                }
            });
        } else {
            reading.remove(source.get());
        }
    }

    private interface Work {
        void of(Datasets.Dataset dataset, DatasetDefinition definition);
    }

    /** @return why it failed; blank if it did not */
    private String attempted(long id, Work work) {
        try {
            Datasets.Dataset dataset = datasets.get(id);
            work.of(dataset, datasets.version(id, dataset.liveVersion().orElse(dataset.latestVersion())));
            return "";
        } catch (SourceProblem | Problem e) {
            LOG.info("Dataset {} could not be checked: {}", id, e.getMessage());
            return String.valueOf(e.getMessage());
        } catch (RuntimeException e) {
            LOG.warn("Dataset {} could not be checked", id, e);
            return "Something unexpected failed. The server's log has the details.";
        }
    }

    private void check(Datasets.Dataset dataset, DatasetDefinition definition) {
        ReadWatch watch = watches.beginCheck(dataset, definition);
        sources.rows(dataset.sourceId()).read(definition.reading(TIME), cells -> {
            watch.see(cells);
            return !Thread.currentThread().isInterrupted();
        });
        if (Thread.currentThread().isInterrupted()) {
            throw Problem.conflict("The server stopped before the dataset was read to its end.");
        }
        watches.end(watch, ReadFor.CHECK);
    }

    private void count(Datasets.Dataset dataset, DatasetDefinition definition) {
        Datasets.Freshness freshness = queries.freshness(dataset.sourceId(), definition);
        datasets.seen(dataset.id(), freshness);
        Instant now = clock.instant();
        ReadFacts facts = new ReadFacts(freshness.rows(), freshness.newestRow(), now, reads.lastCounts(dataset.id()));
        reads.found(dataset.id(), ReadCheck.withoutRows(definition.expectations(), facts), now);
    }

    @PreDestroy
    void end() {
        threads.shutdownNow();
    }
}
