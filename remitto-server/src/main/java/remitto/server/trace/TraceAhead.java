package remitto.server.trace;

import jakarta.annotation.PreDestroy;
import java.time.Instant;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.atomic.AtomicBoolean;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Component;
import remitto.server.platform.DueWork;

/** Notes addresses behind the runs, a few runs at a time, by a thread of its own. */
@Component
class TraceAhead implements DueWork {
    private static final Logger LOG = LoggerFactory.getLogger(TraceAhead.class);
    private static final int AT_ONCE = 20;

    private final AddressTraces traces;
    private final ExecutorService thread =
            Executors.newSingleThreadExecutor(task -> new Thread(task, "address-traces"));
    private final AtomicBoolean isFree = new AtomicBoolean(true);

    TraceAhead(AddressTraces traces) {
        this.traces = traces;
    }

    @Override
    public void startDue(Instant now) {
        if (isFree.compareAndSet(true, false)) {
            thread.execute(this::goOn);
        }
    }

    private void goOn() {
        try {
            traces.ahead(AT_ONCE);
        } catch (RuntimeException e) {
            LOG.warn("Addresses could not be noted: {}", e.getMessage());
        } finally {
            isFree.set(true);
        }
    }

    @PreDestroy
    void end() {
        thread.shutdownNow();
    }
}
