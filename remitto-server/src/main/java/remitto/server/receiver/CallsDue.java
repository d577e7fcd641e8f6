package remitto.server.receiver;

import jakarta.annotation.PreDestroy;
import java.time.Duration;
import java.time.Instant;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.Executors;
import java.util.concurrent.RejectedExecutionException;
import java.util.concurrent.ScheduledExecutorService;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicReference;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Component;
import remitto.server.platform.DueWork;
import remitto.server.platform.Problem;

/**
 * Lays calls out as soon as they are kept, and once a minute whatever was left by a server that ended. Receivers take turns, so that
 * one with a million calls to lay out does not keep another's latest from its table.
 */
@Component
class CallsDue implements DueWork {
    private static final Logger LOG = LoggerFactory.getLogger(CallsDue.class);
    private static final Duration BETWEEN = Duration.ofMinutes(1);
    private static final int AT_A_TIME = 2;
    /** Many calls are laid out in one go where they come fast. */
    private static final Duration COLLECTED = Duration.ofMillis(30);

    private static final int MOST_LOOKS = 20;
    private static final Duration PAUSE = Duration.ofMillis(250);

    private final Receivers receivers;
    private final CallLanding landing;
    private final CallRemoval removal;
    private final ScheduledExecutorService threads = Executors.newScheduledThreadPool(AT_A_TIME, task -> {
        Thread thread = new Thread(task, "receivers");
        thread.setDaemon(true);
        return thread;
    });
    /** Receivers whose calls are being laid out, and whether that is to be done once more. */
    private final Map<Long, Boolean> again = new ConcurrentHashMap<>();

    private final AtomicReference<Instant> last = new AtomicReference<>(Instant.EPOCH);

    CallsDue(Receivers receivers, CallLanding landing, CallRemoval removal) {
        this.receivers = receivers;
        this.landing = landing;
        this.removal = removal;
    }

    /** Lays the calls of a receiver out; once more afterwards where that is under way, since it may have looked already. */
    void wake(long receiver) {
        boolean underWay = again.compute(receiver, (id, known) -> known != null);
        if (!underWay) {
            turn(receiver, 0, Duration.ZERO);
        }
    }

    private void turn(long receiver, int looks, Duration wait) {
        try {
            threads.schedule(() -> land(receiver, looks), wait.toMillis(), TimeUnit.MILLISECONDS);
        } catch (RejectedExecutionException e) {
            // The server ends; the next one finds what is left.
            again.remove(receiver);
        }
    }

    @Override
    public void startDue(Instant now) {
        Instant before = last.get();
        if (!now.isBefore(before.plus(BETWEEN)) && last.compareAndSet(before, now)) {
            receivers.due().forEach(this::wake);
            threads.execute(() -> removal.remove(now));
        }
    }

    private void land(long receiver, int looks) {
        switch (once(receiver)) {
            case MORE -> turn(receiver, 0, Duration.ZERO);
            // The other server may have looked before the latest call came, so that it is waited for.
            case NOT_MINE -> {
                if (looks < MOST_LOOKS) {
                    turn(receiver, looks + 1, PAUSE);
                } else {
                    done(receiver);
                }
            }
            case DONE -> done(receiver);
        }
    }

    private void done(long receiver) {
        if (again.computeIfPresent(receiver, (id, more) -> more ? false : null) != null) {
            turn(receiver, 0, COLLECTED);
        }
    }

    private CallLanding.Came once(long receiver) {
        try {
            return landing.land(receiver);
        } catch (Problem e) {
            LOG.info("Calls of receiver {} are not laid out: {}", receiver, e.getMessage());
        } catch (RuntimeException e) {
            LOG.warn("Laying out calls of receiver {} failed and is tried again", receiver, e);
        }
        return CallLanding.Came.DONE;
    }

    @PreDestroy
    void end() {
        threads.shutdownNow();
    }
}
