package remitto.server.receiver;

import com.github.benmanes.caffeine.cache.Cache;
import com.github.benmanes.caffeine.cache.Caffeine;
import io.github.bucket4j.Bucket;
import io.github.bucket4j.ConsumptionProbe;
import java.time.Duration;
import java.util.Optional;
import org.springframework.stereotype.Component;

/** How many calls this process takes of one receiver, and how many refused ones it writes down. */
@Component
class CallLimits {
    private static final int REFUSED_PER_MINUTE = 60;

    private final Cache<Allowed, Bucket> buckets = Caffeine.newBuilder()
            .maximumSize(10_000)
            .expireAfterAccess(Duration.ofMinutes(10))
            .build();

    private record Allowed(long receiver, boolean refused, int perMinute) {}

    private Bucket bucket(Allowed allowed) {
        return buckets.get(allowed, any -> Bucket.builder()
                .addLimit(limit -> limit.capacity(any.perMinute()).refillGreedy(any.perMinute(), Duration.ofMinutes(1)))
                .build());
    }

    /** Counts a call; tells how long the caller has to wait when there were too many. */
    Optional<Duration> count(KnownReceivers.Called receiver) {
        ConsumptionProbe probe = bucket(
                        new Allowed(receiver.id(), false, receiver.definition().callsPerMinute()))
                .tryConsumeAndReturnRemaining(1);
        return probe.isConsumed() ? Optional.empty() : Optional.of(Duration.ofNanos(probe.getNanosToWaitForRefill()));
    }

    /** Whether a refused call is written down: somebody who knows an address shall not fill the disk. */
    boolean isRefusalKept(long receiver) {
        return bucket(new Allowed(receiver, true, REFUSED_PER_MINUTE)).tryConsume(1);
    }
}
