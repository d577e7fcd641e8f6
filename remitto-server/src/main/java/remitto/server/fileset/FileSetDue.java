package remitto.server.fileset;

import jakarta.annotation.PreDestroy;
import java.time.Duration;
import java.time.Instant;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.atomic.AtomicReference;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Component;
import remitto.server.platform.DueWork;
import remitto.server.platform.Problem;

/** Looks for files every minute, by threads of its own: a place that does not answer stops no other for longer than it is waited for. */
@Component
class FileSetDue implements DueWork {
    private static final Logger LOG = LoggerFactory.getLogger(FileSetDue.class);
    private static final Duration BETWEEN = Duration.ofMinutes(1);
    private static final int AT_A_TIME = 3;

    private final FileSets sets;
    private final FileReading reading;
    private final ExecutorService threads =
            Executors.newFixedThreadPool(AT_A_TIME, task -> new Thread(task, "file-sets"));
    private final Set<Long> underWay = ConcurrentHashMap.newKeySet();
    private final AtomicReference<Instant> last = new AtomicReference<>(Instant.EPOCH);

    FileSetDue(FileSets sets, FileReading reading) {
        this.sets = sets;
        this.reading = reading;
    }

    @Override
    public void startDue(Instant now) {
        Instant before = last.get();
        if (!now.isBefore(before.plus(BETWEEN)) && last.compareAndSet(before, now)) {
            for (long set : sets.due()) {
                if (underWay.add(set)) {
                    threads.execute(() -> look(set));
                }
            }
        }
    }

    private void look(long set) {
        try {
            reading.look(set, FileReading.Progress.NONE);
        } catch (Problem e) {
            LOG.info("Files of file set {} were not read: {}", set, e.getMessage());
        } catch (RuntimeException e) {
            LOG.warn("Reading file set {} failed and is tried again", set, e);
        } finally {
            underWay.remove(set);
        }
    }

    @PreDestroy
    void end() {
        threads.shutdownNow();
    }
}
