package remitto.server.lineage;

import io.openlineage.client.OpenLineage;
import io.openlineage.client.OpenLineageClientUtils;
import jakarta.annotation.PreDestroy;
import java.io.IOException;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.time.Duration;
import java.time.Instant;
import java.util.Optional;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.atomic.AtomicBoolean;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.dao.DataAccessException;
import org.springframework.stereotype.Component;
import remitto.server.platform.DueWork;

/**
 * Tells events of runs to whoever collects lineage, in a thread of its own: no run waits for it, and while nobody answers nothing is lost.
 * An event may be told twice when an answer is lost; its id is the same.
 */
@Component
class LineageWork implements DueWork {
    private static final Logger LOG = LoggerFactory.getLogger(LineageWork.class);
    private static final Duration ANSWER = Duration.ofSeconds(10);
    private static final Duration SHORTEST = Duration.ofSeconds(5);
    private static final Duration LONGEST = Duration.ofMinutes(10);

    private final LineageSettings settings;
    private final LineageLedger ledger;
    private final RouteLineage routes;
    private final MatchingLineage matchings;
    private final AtomicBoolean underWay = new AtomicBoolean();
    private final ExecutorService pool = Executors.newSingleThreadExecutor(task -> new Thread(task, "lineage"));
    private final HttpClient http =
            HttpClient.newBuilder().connectTimeout(ANSWER).build();

    private Duration pause = Duration.ZERO;
    private Instant next = Instant.EPOCH;

    LineageWork(LineageSettings settings, LineageLedger ledger, RouteLineage routes, MatchingLineage matchings) {
        this.settings = settings;
        this.ledger = ledger;
        this.routes = routes;
        this.matchings = matchings;
    }

    @Override
    public void startDue(Instant now) {
        if (settings.isOn() && underWay.compareAndSet(false, true)) {
            pool.execute(() -> {
                try {
                    if (!now.isBefore(next)) {
                        tell(now);
                    }
                } finally {
                    underWay.set(false);
                }
            });
        }
    }

    private void tell(Instant now) {
        try {
            for (LineageLedger.Untold untold : ledger.untold()) {
                Optional<OpenLineage.RunEvent> event = event(untold);
                if (event.isPresent()) {
                    post(event.get());
                }
                ledger.told(untold);
            }
            pause = Duration.ZERO;
        } catch (IOException | DataAccessException | IllegalArgumentException e) {
            pause = pause.isZero()
                    ? SHORTEST
                    : pause.multipliedBy(2).compareTo(LONGEST) > 0 ? LONGEST : pause.multipliedBy(2);
            next = now.plus(pause);
            LOG.warn("Lineage is not told; it is tried again in {} s: {}", pause.toSeconds(), e.getMessage());
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }

    /** Absent where nothing can be told, since what it is about is gone or cannot be read; others do not wait for it. */
    private Optional<OpenLineage.RunEvent> event(LineageLedger.Untold untold) {
        try {
            return Optional.of(
                    switch (untold.what()) {
                        case RUN -> routes.event(untold);
                        case MATCHING -> matchings.event(untold);
                    });
        } catch (DataAccessException e) {
            throw e;
        } catch (RuntimeException e) {
            LOG.warn("No lineage is told of {} {}", untold.what(), untold.subject(), e);
            return Optional.empty();
        }
    }

    private void post(OpenLineage.RunEvent event) throws IOException, InterruptedException {
        HttpRequest.Builder request = HttpRequest.newBuilder(URI.create(settings.url()))
                .timeout(ANSWER)
                .header("Content-Type", "application/json")
                .POST(HttpRequest.BodyPublishers.ofString(OpenLineageClientUtils.toJson(event)));
        if (!settings.key().isEmpty()) {
            request.header("Authorization", "Bearer " + settings.key());
        }
        int status = http.send(request.build(), HttpResponse.BodyHandlers.discarding())
                .statusCode();
        if (status == 400 || status == 422) {
            LOG.warn("The collector of lineage does not take an event: {}", status);
        } else if (status >= 300) {
            throw new IOException("the collector of lineage answered " + status);
        }
    }

    @PreDestroy
    void stop() {
        pool.shutdownNow();
    }
}
