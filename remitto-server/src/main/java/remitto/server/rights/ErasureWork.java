package remitto.server.rights;

import jakarta.annotation.PreDestroy;
import java.time.Instant;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Component;
import remitto.server.platform.DueWork;

/** Carries erasures on until they are done, whatever is interrupted. */
@Component
class ErasureWork implements DueWork {
    private static final Logger LOG = LoggerFactory.getLogger(ErasureWork.class);

    private final Erasures erasures;
    private final RemovalsThere removals;
    private final ExecutorService pool = Executors.newSingleThreadExecutor(task -> new Thread(task, "erasures"));

    ErasureWork(Erasures erasures, RemovalsThere removals) {
        this.erasures = erasures;
        this.removals = removals;
    }

    @Override
    public void startDue(Instant now) {
        erasures.claim(now).forEach(id -> pool.execute(() -> goOn(id)));
    }

    private void goOn(long id) {
        try {
            if (erasures.forget(id)) {
                removals.remove(id);
            } else {
                erasures.release(id);
            }
        } catch (RuntimeException e) {
            LOG.error("Erasure {} does not go on", id, e);
            erasures.waitsFor(id, "Something unexpected failed. The server's log has the details. It is tried again.");
        }
    }

    @PreDestroy
    void stop() {
        pool.shutdown();
    }
}
