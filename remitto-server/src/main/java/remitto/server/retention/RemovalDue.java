package remitto.server.retention;

import jakarta.annotation.PreDestroy;
import java.time.Duration;
import java.time.Instant;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.atomic.AtomicReference;
import org.springframework.stereotype.Component;
import remitto.server.platform.DueWork;

/** Looks every quarter of an hour, by a thread of its own. */
@Component
class RemovalDue implements DueWork {
    private static final Duration BETWEEN = Duration.ofMinutes(15);

    private final Removal removal;
    private final ExecutorService thread = Executors.newSingleThreadExecutor(task -> new Thread(task, "retention"));
    private final AtomicReference<Instant> last = new AtomicReference<>(Instant.EPOCH);

    RemovalDue(Removal removal) {
        this.removal = removal;
    }

    @Override
    public void startDue(Instant now) {
        Instant before = last.get();
        if (!now.isBefore(before.plus(BETWEEN)) && last.compareAndSet(before, now)) {
            thread.execute(removal::removeDue);
        }
    }

    @PreDestroy
    void end() {
        thread.shutdownNow();
    }
}
