package remitto.server.asker;

import jakarta.annotation.PreDestroy;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.Executors;
import java.util.concurrent.ScheduledExecutorService;
import java.util.concurrent.TimeUnit;
import java.util.function.BooleanSupplier;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Component;

/** Looks twice a second whether those who asked are still there, and ends what is done for those who are not. */
@Component
public class Askers {
    private static final Logger LOG = LoggerFactory.getLogger(Askers.class);
    private static final long LOOK_MILLIS = 500;

    private final ThreadLocal<Asker> current = new ThreadLocal<>();
    private final Set<Asker> waiting = ConcurrentHashMap.newKeySet();
    private final ScheduledExecutorService looks =
            Executors.newSingleThreadScheduledExecutor(task -> new Thread(task, "askers"));

    Askers() {
        looks.scheduleWithFixedDelay(this::lookAll, LOOK_MILLIS, LOOK_MILLIS, TimeUnit.MILLISECONDS);
    }

    private void lookAll() {
        for (Asker asker : waiting) {
            try {
                asker.look();
            } catch (RuntimeException e) {
                LOG.warn("Whether an asker is there cannot be told: {}", e.toString());
            }
        }
    }

    /** Work that ends by itself, or is ended. */
    public interface UnderWay extends AutoCloseable {
        @Override
        void close();
    }

    /**
     * Does work of this thread for somebody who can go.
     *
     * @param gone whether they have; asked from another thread
     */
    public void asking(BooleanSupplier gone, Runnable work) {
        arrived(gone);
        try {
            work.run();
        } finally {
            answered();
        }
    }

    /**
     * The request that this thread answers begins.
     *
     * @param hungUp whether its connection ended
     */
    void arrived(BooleanSupplier hungUp) {
        Asker asker = new Asker(hungUp);
        current.set(asker);
        waiting.add(asker);
    }

    void answered() {
        waiting.remove(current.get());
        current.remove();
    }

    /**
     * Work on this thread that is ended when whoever asked has gone. Work that nobody asked for goes on.
     *
     * @param cancel ends it, called from another thread
     */
    public UnderWay begin(Runnable cancel) {
        Optional<Asker> asker = Optional.ofNullable(current.get());
        asker.ifPresent(one -> one.begun(cancel));
        return () -> asker.ifPresent(one -> one.ended(cancel));
    }

    /** Whether this thread works for somebody who asked. */
    public boolean isAsked() {
        return current.get() != null;
    }

    @PreDestroy
    void stop() {
        looks.shutdownNow();
    }
}
