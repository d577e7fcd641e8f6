package remitto.server.token;

import com.github.benmanes.caffeine.cache.Cache;
import com.github.benmanes.caffeine.cache.Caffeine;
import io.github.bucket4j.Bucket;
import io.github.bucket4j.ConsumptionProbe;
import java.time.Duration;
import java.util.Optional;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.stereotype.Component;

/** How often a token may call this process: so many calls a minute, and as many at once after a pause. */
@Component
class TokenRates {
    private final int callsPerMinute;
    private final Cache<Long, Bucket> buckets = Caffeine.newBuilder()
            .maximumSize(10_000)
            .expireAfterAccess(Duration.ofMinutes(10))
            .build();

    TokenRates(@Value("${remitto.token-calls-per-minute}") int callsPerMinute) {
        this.callsPerMinute = callsPerMinute;
    }

    /** Counts a call of a token; tells how long it has to wait when it has no more. */
    Optional<Duration> count(long token) {
        ConsumptionProbe probe = buckets.get(token, any -> full()).tryConsumeAndReturnRemaining(1);
        return probe.isConsumed() ? Optional.empty() : Optional.of(Duration.ofNanos(probe.getNanosToWaitForRefill()));
    }

    private Bucket full() {
        return Bucket.builder()
                .addLimit(limit -> limit.capacity(callsPerMinute).refillGreedy(callsPerMinute, Duration.ofMinutes(1)))
                .build();
    }

    int callsPerMinute() {
        return callsPerMinute;
    }
}
